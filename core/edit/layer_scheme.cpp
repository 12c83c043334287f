#include "edit/layer_scheme.h"

#include <algorithm>
#include <set>

#include "edit/tiles.h"
#include "level/order.h"

namespace rubble::edit {

namespace {

const Layer* tile_layer_of(const Level& level, const LayerId& id) {
    for (const auto& layer : level.layers)
        if (layer->id == id && layer->tiles) return layer.get();
    return nullptr;
}

/// The layer as the scheme has it.
Layer as_in(const SchemeLayer& scheme, Layer layer) {
    TileLayer tiles = layer.tiles ? **layer.tiles : TileLayer{};
    tiles.cell_m = scheme.cell_m, tiles.solid = scheme.solid, tiles.depth = scheme.depth;
    tiles.opacity = scheme.opacity, tiles.parallax = scheme.parallax;
    layer.id = scheme.id, layer.name = scheme.name;
    layer.tiles = Shared<TileLayer>(std::move(tiles));
    return layer;
}

} // namespace

std::vector<SchemeChange> scheme_changes(const Project& project, const Level& level) {
    using What = SchemeChange::What;
    std::vector<SchemeChange> out;
    for (const SchemeLayer& scheme : project.scheme) {
        if (scheme.frame != level.frame) continue;
        const auto note = [&](What what) { out.push_back({scheme.id, scheme.name, what}); };
        const Layer* layer = tile_layer_of(level, scheme.id);
        if (!layer) {
            note(What::comes);
            continue;
        }
        const TileLayer& tiles = **layer->tiles;
        if (layer->name != scheme.name) note(What::name);
        if (tiles.cell_m != scheme.cell_m) note(What::cell);
        if (tiles.solid != scheme.solid) note(What::solid);
        if (tiles.depth != scheme.depth) note(What::depth);
        if (tiles.opacity != scheme.opacity) note(What::opacity);
        if (tiles.parallax != scheme.parallax) note(What::parallax);
    }
    return out;
}

Level with_scheme_of(const Project& project, const Level& level) {
    Level out = level;
    // What comes is put before the layer of the scheme that follows it, so that the order is the scheme's.
    size_t place = 0;
    for (const SchemeLayer& scheme : project.scheme) {
        if (scheme.frame != level.frame) continue;
        const auto own = std::find_if(out.layers.begin(), out.layers.end(), [&](const auto& layer) {
            return layer->id == scheme.id && layer->tiles;
        });
        if (own != out.layers.end()) {
            const Layer changed = as_in(scheme, **own);
            if (!(changed == **own)) *own = Shared<Layer>(changed);
            place = size_t(own - out.layers.begin()) + 1;
        } else {
            out.layers.insert(out.layers.begin() + std::ptrdiff_t(place), Shared<Layer>(as_in(scheme, {})));
            ++place;
        }
    }
    return out;
}

Project with_scheme_from(const Project& project, const Level& level) {
    Project out = project;
    std::erase_if(out.scheme, [&](const SchemeLayer& layer) { return layer.frame == level.frame; });
    for (const auto& layer : level.layers) {
        if (!layer->tiles) continue;
        const TileLayer& tiles = **layer->tiles;
        out.scheme.push_back({layer->id, layer->name, level.frame, tiles.cell_m, tiles.solid, tiles.depth,
                              tiles.opacity, tiles.parallax});
    }
    return out;
}

Level all_wall(const Level& level) {
    for (const auto& layer : level.layers) {
        if (!layer->tiles || !(*layer->tiles)->solid) continue;
        TileLayer tiles = **layer->tiles;
        // A body that stands on a corner of cells stands in all of them.
        std::set<CellAt> kept;
        const double half = tiles.cell_m * 0.45;
        for (const Item* item : elements_of(level))
            for (const Vec2 by :
                 {Vec2(-half, -half), Vec2(half, -half), Vec2(-half, half), Vec2(half, half)}) {
                Vec3 at = item->element()->at;
                at[layout_of(level.frame).right] += by.x, at[layout_of(level.frame).ahead] += by.y;
                kept.insert(cell_at(tiles, level.frame, at));
            }
        Tile whole(0);
        if (tiles.sheet)
            for (const auto& [number, tile] : tiles.sheet->tiles)
                if (tile.collision == TileCollision::full) {
                    whole = Tile(number);
                    break;
                }
        TileGridMaker maker(tiles.grid);
        const TileBox& area = tiles.grid.area();
        for (int row = area.low.row; row < area.high.row; ++row)
            for (int column = area.low.column; column < area.high.column; ++column)
                if (const CellAt at{column, row}; maker.at(at).empty() && !kept.contains(at))
                    maker.put(at, whole);
        tiles.grid = maker.finished();
        return with_tile_layer(level, layer->id, std::move(tiles));
    }
    return level;
}

Level with_layer_at(const Level& level, const LayerId& layer, size_t place) {
    Level out = level;
    const auto at =
        std::find_if(out.layers.begin(), out.layers.end(), [&](const auto& one) { return one->id == layer; });
    if (at == out.layers.end()) return out;
    Layer moved = **at;
    out.layers.erase(at);
    place = std::min(place, out.layers.size());
    if (moved.tiles) {
        TileLayer tiles = **moved.tiles;
        // Later layers lie before: no deeper than the ones behind it, no less deep than those before it.
        for (size_t i = place; i-- > 0;)
            if (out.layers[i]->tiles) {
                tiles.depth = std::min(tiles.depth, (*out.layers[i]->tiles)->depth);
                break;
            }
        for (size_t i = place; i < out.layers.size(); ++i)
            if (out.layers[i]->tiles) {
                tiles.depth = std::max(tiles.depth, (*out.layers[i]->tiles)->depth);
                break;
            }
        moved.tiles = Shared<TileLayer>(std::move(tiles));
    }
    out.layers.insert(out.layers.begin() + std::ptrdiff_t(place), Shared<Layer>(std::move(moved)));
    return out;
}

} // namespace rubble::edit
