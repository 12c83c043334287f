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

} // namespace rubble::app
