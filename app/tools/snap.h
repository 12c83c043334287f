#pragma once

#include <array>
#include <optional>

#include "session/session.h"
#include "tools/tool.h"
#include "view/picking.h"

namespace rubble::app {

// What is snapped to now, by the session's switches; nothing while Alt is held.

/// The grid step, 0 where the grid is off.
double snap_grid(const Session& session, const Pointer& pointer);
/// The step of turning, 0 where it is off.
double snap_turn(const Session& session, const Pointer& pointer);
/// How near an edge must be to be caught at a place, 0 where edges are off.
double snap_catch(const Session& session, const Pointer& pointer, const Vec3& at);

/// A place put onto the grid, or per axis onto the edge of another item that is nearer than `catch_m`.
struct Snapped {
    Vec3 at{0};
    std::array<std::optional<double>, 2> edge; ///< x, y lines that were caught, to be drawn as guides
};

Snapped snap(const Level& level, const std::vector<ItemId>& moving, const Vec3& at, double grid_m,
             double catch_m);

/// One coordinate put onto the grid, or onto the low or high side of another item near `near` that is nearer
/// than `catch_m`. `axis`: 0 x, 1 y, 2 z.
double snap_along(const Level& level, const std::vector<ItemId>& moving, const Vec3& near, int axis,
                  double value, double grid_m, double catch_m);

/// The brushes that are seen at the pointer or a few pixels beside it: what a corner there may belong to.
std::vector<const Item*> brushes_near(const Session& session, const Pointer& pointer);

/// A corner of a brush that is caught near the pointer, the nearer to the eye where two lie on each other.
struct CaughtCorner {
    ItemId item;
    Vec3 at{0};
};
std::optional<CaughtCorner> caught_corner(const Session& session, const Pointer& pointer,
                                          const ItemId& except = {});

/// The place on an edge of a brush that is caught near the pointer: along an edge that runs along an axis of
/// the level on the grid. Edges that run along the way `along` are not meant where something moves that way.
std::optional<Vec3> caught_edge(const Session& session, const Pointer& pointer, const ItemId& except = {},
                                const Vec3& along = Vec3(0));

/// How far along a way from a place the plane of the face lies that is pointed at; nothing where none is, or
/// where it is one of `except`, or where the way runs along it.
std::optional<double> way_to_face(const Session& session, const Pointer& pointer, const Vec3& from,
                                  const Vec3& way, const ItemId& except = {});

/// The place to begin to draw at: at the edge of a wall whose face is hit just below it, that edge's height.
Vec3 drawing_ground(const Session& session, const Pointer& pointer);

/// A place in a plane put onto the plane's grid, which in an upright or level plane is the level's own, or
/// onto a corner or an edge beside it.
Vec3 snapped_on(const Session& session, const Pointer& pointer, const edit::WorkingPlane& plane,
                const Vec3& at);

/// What one draws in where a flat view looks from the front or the side and no working plane is set: the
/// view's own plane, at the near side of what is selected, or of the slice, and how deep that is.
struct Elevation {
    edit::WorkingPlane plane; ///< looks at the viewer
    double depth_m = 1;
};
std::optional<Elevation> elevation_of(const Session& session, const Camera& camera);

/// Whether the view shows no ground to draw or to put things on; then it says so.
bool seen_from_the_side(Session& session, const Pointer& pointer);

/// In a Side level, the ground that lies below a place, in the plane that is played in; the place itself
/// where there is none.
Vec3 ground_below(const Session& session, const Vec3& at);

/// The ground in front of a wall that is pointed at: nobody stands on the wall itself. Nothing where it is
/// ground that is pointed at, or where there is none below.
std::optional<Vec3> foot_of_wall(const Session& session, const Hit& hit);

} // namespace rubble::app
