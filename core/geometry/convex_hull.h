#pragma once

#include <vector>

#include "geometry/exact.h"

namespace rubble::geometry {

/// The faces of the convex hull of points, as loops of their indices, counter-clockwise seen from outside,
/// each plane once; corners on straight edges and points in faces are left out. Empty where all points lie in
/// one plane. Exact; one point after the other, O(n²). Points must lie within `longest_edge_m` of each other.
std::vector<std::vector<int>> convex_hull(const std::vector<TickPoint>& points);

} // namespace rubble::geometry
