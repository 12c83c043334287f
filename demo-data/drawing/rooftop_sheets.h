#pragma once

#include "sheet_maker.h"

namespace rubble::demo {

/// Tiles of half a metre: the brickwork of the cannery's roofs, slopes, decks, water and what stands about.
struct RooftopSheet {
    TileSheet sheet;
    int water_top, water, course, crate, barrel, post, net, vent, chimney, lantern, laundry, rail;
    int window, door; ///< the first of each picture
};
RooftopSheet rooftop_sheet();

/// Tiles of a metre: what is seen far behind, across the bay.
struct HarbourSheet {
    TileSheet sheet;
    int sea, shore;                            ///< single tiles
    int sheds, crane, lighthouse, boat, cloud; ///< the first of each picture
};
HarbourSheet harbour_sheet();

} // namespace rubble::demo
