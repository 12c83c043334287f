#pragma once

#include <array>

#include "sheet_maker.h"

namespace rubble::demo {

/// Tiles of a metre seen from above: the floor of the pallet store, its walls and what is stacked in it.
struct StoreSheet {
    TileSheet sheet;
    std::array<int, 4> floor;
    std::array<int, 5> stacks;
    int leaning, pit, arrow, drain;
};
StoreSheet store_sheet();

} // namespace rubble::demo
