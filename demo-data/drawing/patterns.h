#pragma once

#include <string>
#include <vector>

#include "level/tiles/tile_sheet.h"

namespace rubble::demo {

/// A picture that repeats without a seam, or, of prints, one with several beside each other.
struct DrawnPattern {
    std::string file; ///< "brick.png"
    Picture picture;
};

/// The materials of the cannery: brick, planks, sheet metal, tiles, concrete, a net of rope, and its signs.
std::vector<DrawnPattern> drawn_patterns();

} // namespace rubble::demo
