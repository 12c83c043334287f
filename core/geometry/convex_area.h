#pragma once

#include <optional>
#include <vector>

#include "geometry/vec.h"

namespace rubble::geometry {

/// A convex polygon in the plane, counter-clockwise, no point doubled. Fewer than three points: empty.
using ConvexArea = std::vector<Vec2>;

/// The side `left_of(direction) · (p - at) >= 0` of a line.
struct HalfPlane {
    Vec2 at{0};
    Vec2 inward{0}; ///< unit length
    /// How far a place lies inside the edge's line; below 0: outside.
    double distance(Vec2 p) const { return glm::dot(inward, p - at); }
};

/// In square metres.
double area_of(const ConvexArea& area);
/// The least box that holds it.
Box2 box_of(const ConvexArea& area);
/// The mean of its corners.
Vec2 middle_of(const ConvexArea& area);
/// Whether a place lies in it, or outside by no more than `tolerance` metres.
bool contains(const ConvexArea& area, Vec2 p, double tolerance = 0);

/// The part of `area` inside the half plane; empty where that is thinner than tolerance::same_place_m.
ConvexArea clipped(const ConvexArea& area, const HalfPlane& keep);
/// The common part of two convex areas.
ConvexArea common(const ConvexArea& a, const ConvexArea& b);
/// Convex hull of points (Andrew's monotone chain).
ConvexArea hull(std::vector<Vec2> points);

/// `area` grown by a disc of radius `r`, its round corners replaced by tangents (`outside` the true shape)
/// or by chords (inside it), at most tolerance::corner_step_deg apart.
ConvexArea grown_outside(const ConvexArea& area, double r);
/// Grown by a disc of radius `r`, with chords for the round corners: never too large.
ConvexArea grown_inside(const ConvexArea& area, double r);

/// Distance from `p` to the area, 0 inside it.
double distance(const ConvexArea& area, Vec2 p);
/// The point of the area nearest to `p`.
Vec2 nearest(const ConvexArea& area, Vec2 p);
/// The nearest points of two areas, on each; equal where they overlap.
struct NearestPair {
    Vec2 on_a{0}, on_b{0};
    double distance = 0;
};
/// The two places of areas that lie nearest to each other.
NearestPair nearest(const ConvexArea& a, const ConvexArea& b);

/// The largest and the least value of slope · p + c over the common part of the area and the disc of
/// radius `r` about `centre`; nothing where they have no point in common.
struct Range {
    double low = 0, high = 0;
    Vec2 low_at{0}, high_at{0}; ///< where they are taken
};
/// Least and greatest value of slope·p + c where a disc and an area overlap; nothing where they do not.
std::optional<Range> range_over_disc(const ConvexArea& area, Vec2 centre, double r, Vec2 slope, double c);

/// When a disc of radius `r` whose centre moves from `from` by `by` overlaps the area: from `enter` to
/// `leave` as parts of the way, not limited to 0…1, with the outward direction of the contact at `enter`.
struct DiscPassage {
    double enter = 0, leave = 0;
    Vec2 normal{0};
};
/// The part of the way `by` during which a disc overlaps an area; nothing where it never does.
std::optional<DiscPassage> disc_passage(const ConvexArea& area, Vec2 from, Vec2 by, double r);

} // namespace rubble::geometry
