#pragma once

#include <array>
#include <optional>

#include "level/level.h"

namespace rubble::app {

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

} // namespace rubble::app
