#pragma once

#include <cstdint>
#include <vector>

namespace rubble::geometry {

/// A point of a plane in whole ticks.
struct TickPoint2 {
    int64_t x = 0, y = 0;
    auto operator<=>(const TickPoint2&) const = default;
};

/// Twice the signed area of a triangle: above 0 where it runs counter-clockwise. Exact.
__int128 turn(const TickPoint2& a, const TickPoint2& b, const TickPoint2& c);

/// Twice the signed area of a ring.
__int128 doubled_area(const std::vector<TickPoint2>& ring);

/// A figure by its rings: the outer one counter-clockwise, holes clockwise.
using Rings = std::vector<std::vector<TickPoint2>>;

/// Whether no two edges of any rings have a point in common but neighbours their corner, and the holes lie in
/// the outer ring beside each other. O(n²).
bool is_simple(const Rings& rings);

/// A figure whose rings are simple as convex polygons, counter-clockwise, by indices into all points of all
/// rings one after the other; no corner of theirs lies on a straight line. Triangles by cutting ears, put
/// together again where the result stays convex (Hertel and Mehlhorn, "Fast Triangulation of the Plane with
/// Respect to Simple Polygons", 1985): at most four times as many as need be.
std::vector<std::vector<int>> convex_parts(const Rings& rings);

/// A simple ring as triangles of its indices that have all its points as corners, those on straight lines
/// too; fewer where the ring crosses itself.
std::vector<std::vector<int>> triangles_of(const std::vector<TickPoint2>& ring);

} // namespace rubble::geometry
