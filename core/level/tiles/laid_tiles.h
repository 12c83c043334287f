#pragma once

#include <map>
#include <utility>
#include <vector>

#include "level/level.h"

namespace rubble {

/// Puts blocks of tiles that items bring into the layers of tiles: into the one that a block names where
/// their cells lie on one grid and are of one sheet, else into a layer of its own that is named by the item.
/// Remembers what it made, so that what did not change stays the very same.
class LaidTiles {
public:
    /// The level with all blocks in its layers; the level itself where it has none.
    Level of(const Level& level);

private:
    struct Known {
        Shared<TileLayer> before, after;
        std::vector<std::pair<ItemId, TileLayer>> blocks;
    };
    Level made(const Level& level);

    std::map<LayerId, Known> known_;
    Level last_, last_laid_;
};

/// The same, once.
Level with_tiles_laid(const Level& level);

} // namespace rubble
