#include "level/tiles/laid_tiles.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"

namespace rubble {

namespace {

struct Block {
    const Item* item;
    const PlacedTiles* tiles;
    const Layer* layer; ///< that holds the item
};

std::vector<Block> blocks_of(const Level& level) {
    std::vector<Block> out;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const PlacedTiles* block = item.tiles();
        if (block && block->plane() == level.frame) out.push_back({&item, block, &layer});
    });
    return out;
}

/// By how many cells a block is off a layer; nothing where its cells cannot lie in it.
std::optional<CellAt> shift_into(const TileLayer& layer, const PlacedTiles& block) {
    const TileLayer& own = block.tiles;
    if (own.sheet_file != layer.sheet_file || std::abs(own.cell_m - layer.cell_m) > tolerance::limit_m)
        return {};
    const FrameLayout layout = layout_of(block.plane());
    const Vec3 off = (own.origin - layer.origin) / layer.cell_m;
    const double right = off[layout.right], down = -off[layout.ahead];
    const auto whole = [&](double v) {
        return std::abs(v - std::round(v)) * layer.cell_m <= tolerance::limit_m && std::abs(v) < 1e8;
    };
    if (!whole(right) || !whole(down)) return {};
    return CellAt{int(std::round(right)), int(std::round(down))};
}

void put(TileGridMaker& maker, const TileLayer& block, CellAt shift) {
    block.grid.for_each_tile(block.grid.area(), [&](CellAt at, Tile tile) {
        maker.put({at.column + shift.column, at.row + shift.row}, tile);
    });
}

} // namespace

Level LaidTiles::of(const Level& level) {
    if (level.frame == Frame::space) return level;
    const bool same = last_.frame == level.frame &&
                      std::equal(last_.layers.begin(), last_.layers.end(), level.layers.begin(),
                                 level.layers.end(), [](const auto& a, const auto& b) { return a.is(b); });
    if (same && !last_.layers.empty()) {
        Level out = level;
        out.layers = last_laid_.layers;
        return out;
    }
    last_ = level;
    last_laid_ = made(level);
    return last_laid_;
}

Level LaidTiles::made(const Level& level) {
    const std::vector<Block> blocks = blocks_of(level);
    if (blocks.empty()) {
        known_.clear();
        return level;
    }
    Level out = level;
    std::map<LayerId, Known> now;
    std::vector<char> laid(blocks.size(), 0);
    for (Shared<Layer>& layer : out.layers) {
        if (!layer->tiles) continue;
        Known one{*layer->tiles, *layer->tiles, {}};
        TileGridMaker maker((*layer->tiles)->grid);
        for (size_t i = 0; i < blocks.size(); ++i) {
            if (laid[i] || blocks[i].tiles->layer != layer->id) continue;
            const auto shift = shift_into(**layer->tiles, *blocks[i].tiles);
            if (!shift) continue;
            laid[i] = 1;
            one.blocks.push_back({blocks[i].item->id, blocks[i].tiles->tiles});
            put(maker, blocks[i].tiles->tiles, *shift);
        }
        if (one.blocks.empty()) continue;
        const auto before = known_.find(layer->id);
        if (before != known_.end() && before->second.before == one.before &&
            before->second.blocks == one.blocks) {
            one.after = before->second.after;
        } else {
            TileLayer tiles = **layer->tiles;
            tiles.grid = maker.finished();
            one.after = Shared<TileLayer>(std::move(tiles));
        }
        Layer changed = *layer;
        changed.tiles = one.after;
        layer = Shared<Layer>(std::move(changed));
        now[layer->id] = std::move(one);
    }
    for (size_t i = 0; i < blocks.size(); ++i) {
        if (laid[i]) continue;
        Layer own;
        own.id = {blocks[i].item->id.value}, own.name = blocks[i].item->title();
        own.parent = blocks[i].layer->id; // and is hidden with it
        own.hidden = blocks[i].item->hidden;
        own.tiles = Shared<TileLayer>(blocks[i].tiles->tiles);
        out.layers.push_back(std::move(own));
    }
    known_ = std::move(now);
    return out;
}

Level with_tiles_laid(const Level& level) { return LaidTiles().of(level); }

} // namespace rubble
