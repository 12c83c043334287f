#pragma once

#include <algorithm>
#include <limits>
#include <optional>
#include <vector>

#include "geometry/convex_area.h"
#include "geometry/convex_cell.h"
#include "motion/matter.h"

namespace rubble::motion {

/// A height that changes evenly over the plane: slope · p + c.
struct HeightPlane {
    Vec2 slope{0};
    double c = 0;
    double at(Vec2 p) const { return glm::dot(slope, p) + c; }
    /// Whether it does not slope.
    bool level() const { return slope == Vec2(0); }
    bool operator==(const HeightPlane&) const = default;
};

/// The form in which the character meets matter: what lies over a convex area between one bottom and one
/// top plane. Every convex cell is a few of them. Over the disc of the body a column reaches from its least
/// bottom to its highest top, so an upright cylinder overlaps it exactly where those two heights overlap
/// the body's: the whole of contact is questions in the plane.
struct Column {
    geometry::ConvexArea area;
    HeightPlane top, bottom;
    double low = 0, high = 0; ///< least and greatest height of the matter
    Box2 box;
    int source = 0; ///< index into the world's sources
    MatterTags tags;
    /// The columns of the same convex cell, one after the other in a World.
    struct Cell {
        int first = 0, count = 0;
    } cell;
    double steep = 0;     ///< tangent of the top's slope
    double slope_deg = 0; ///< the same as an angle
    /// The gentlest slope of a top that begins where this one is highest; infinite where none does, and for
    /// level tops. Known to a World.
    double leads_to_deg = std::numeric_limits<double>::infinity();

    /// No less than the highest that a disc feels of the top; cheaply told.
    double most_under_disc(Vec2 centre, double r) const { return std::min(high, top.at(centre) + r * steep); }
    /// Whether it holds whoever comes from above, and lets pass from below and from the side.
    bool one_way() const { return tags.has(MatterTag::one_way); }
    /// Whether it is an upright prism.
    bool simple() const { return top.level() && bottom.level(); }
    /// Least and greatest height over the disc; nothing where the disc does not overlap the area.
    std::optional<geometry::Range> over_disc(Vec2 centre, double r) const;
    /// The part of the area where matter lies above `above` and begins below `below`.
    geometry::ConvexArea between(double above, double below) const;
};

/// Works out, from area and planes, what else a column knows of itself.
void completed(Column& column);

/// The same matter elsewhere.
Column moved(Column column, const Vec3& by);

/// The columns of a convex cell, one for each pair of a face that looks up and one that looks down.
std::vector<Column> columns_of(const geometry::ConvexCell& cell, int source);

} // namespace rubble::motion
