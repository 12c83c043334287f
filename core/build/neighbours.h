#pragma once

#include <vector>

#include "geometry/vec.h"

namespace rubble::build {

/// For every box the indices of the boxes that touch it, ascending, itself not among them. A uniform grid
/// finds them; boxes much larger than most are tested against all, so that one floor under everything does
/// not fill the grid. O(n) for boxes of like size and density.
std::vector<std::vector<int>> touching(const std::vector<Box3>& boxes);

} // namespace rubble::build
