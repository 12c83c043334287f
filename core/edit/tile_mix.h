#pragma once

#include <span>
#include <vector>

#include "edit/tiles.h"

namespace rubble::edit {

/// Tiles of which one is taken for each cell by chance, as often as their weights say.
struct TileMix {
    struct Part {
        Tile tile;
        double weight = 1; ///< 0: never
        bool operator==(const Part&) const = default;
    };
    std::vector<Part> parts;

    /// What a cell gets: the same for the same cell and seed, whatever else is painted. Empty where no part
    /// has a weight.
    Tile at(CellAt cell, uint32_t seed) const;
    bool operator==(const TileMix&) const = default;
};

/// Changes that fill cells from a mix.
TileChanges strewn(const TileMix& mix, std::span<const CellAt> cells, uint32_t seed);

} // namespace rubble::edit
