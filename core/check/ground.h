#pragma once

#include <memory>
#include <vector>

#include "base/cancel.h"
#include "geometry/box_grid.h"
#include "level/character.h"
#include "motion/world_change.h"

namespace rubble::check {

struct RoundTop;

/// A top of matter on which the character can stand, as heights of the feet over the plane: on a slope the
/// flat bottom touches uphill, so the feet are higher than the ground under the middle.
struct Top {
    int column = -1;
    motion::HeightPlane feet;
    double cap = 0;                  ///< the feet are never higher than the column's highest point
    geometry::ConvexArea slope_area; ///< of a sloping column; empty for level ones
    motion::HeightPlane slope;       ///< of a sloping column's top
    double radius = 0;
    std::shared_ptr<const RoundTop> round; ///< where several tops of one body are one; then it knows
    /// The feet's height over a place: over a slope's rim the disc feels only a part of it.
    double feet_at(Vec2 p) const;
    bool level() const { return slope_area.empty(); }
};

/// A way to walk, or to drop, from one fragment into a neighbour.
struct Portal {
    int to = -1;
    Vec2 a{0}, b{0};     ///< the common edge
    double rise = 0;     ///< of the feet
    bool walked = false; ///< within a step; else a drop
    /// Of the common edge.
    Vec2 middle() const { return (a + b) * 0.5; }
};

/// A convex part of the places where the middle of the bottom can be.
struct Fragment {
    geometry::ConvexArea area;
    Box2 box;
    int top = -1;
    bool low = false; ///< only crouched
    double area_m2 = 0;
    double lowest_m = 0, highest_m = 0; ///< of the feet at its corners
    int ledge = -1;
    std::vector<Portal> portals;
};

/// The fragments of one tile of a top.
struct Patch {
    int top = -1;
    int tile = 0; ///< counted within the top
    Box2 box;
    int first = 0, count = 0; ///< of the fragments
};

struct Ledge {
    std::vector<int> fragments;
    Box3 box; ///< of the feet
    double area_m2 = 0;
};

/// Where a character can stand: the walkable surface less the obstacles grown by the body, cut into convex
/// fragments, and the ledges they make: fragments that are walkable into each other both ways.
///
/// The edges are exact up to round corners, which are drawn as tangents outside (obstacles) or chords
/// inside (support): what is found walkable is walkable, and a passage is missed only where it is narrower
/// than the body and 1.2 cm.
struct Ground {
    std::vector<Top> tops;
    std::vector<Fragment> fragments;
    std::vector<Patch> patches; ///< of all fragments, in order
    std::vector<Ledge> ledges;
    std::vector<int> before; ///< for each fragment its index in the ground before the edit; -1: found anew
    bool flat_on = false;    ///< of a level that is played in the plane y = 0
    std::shared_ptr<const build::WalkedCells> cells; ///< of one that is walked by them
    std::vector<int> fragment_of_cell;               ///< row by row; -1: not free

    /// The fragment that holds a place of the feet, by the nearest height within `within_m`; -1 for none.
    int locate(const Vec3& feet, double within_m) const;
    /// The ledge of the fragment there; -1 for none.
    int ledge_at(const Vec3& feet, double within_m) const;
    /// How high the feet are at a place of a fragment.
    double feet_at(int fragment, Vec2 p) const {
        return tops[size_t(fragments[size_t(fragment)].top)].feet_at(p);
    }
    /// Calls `visit(fragment)` once for every fragment whose box touches `area`.
    template <class F> void for_near(const Box2& area, F visit) const { grid.for_near(area, visit); }

    geometry::BoxGrid grid; ///< of the fragments
};

/// The ground before an edit, for the same character, and what the edit did to the world.
struct GroundBefore {
    const Ground& ground;
    const motion::WorldChange& change;
};

/// Finds the ground. With what was there before, only tiles near a change are worked out anew; the result
/// is the same.
Ground ground_of(const motion::World& world, const Character& character, const Cancel& cancel = {},
                 const GroundBefore* before = nullptr);

/// A place of the feet in a fragment.
Vec3 place_of(const Ground& ground, int fragment);

} // namespace rubble::check
