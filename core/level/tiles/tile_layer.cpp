#include "level/tiles/tile_layer.h"

#include <cmath>

namespace rubble {

Vec3 place_of(const TileLayer& layer, Frame frame, CellAt cell, Vec2 in_cell) {
    Vec3 place = layer.origin;
    const FrameLayout layout = layout_of(frame);
    place[layout.right] += (cell.column + in_cell.x) * layer.cell_m;
    place[layout.ahead] -= (cell.row + 1 - in_cell.y) * layer.cell_m;
    return place;
}

CellAt cell_at(const TileLayer& layer, Frame frame, const Vec3& place) {
    const FrameLayout layout = layout_of(frame);
    const Vec3 from = (place - layer.origin) / layer.cell_m;
    const auto whole = [](double v) { return int(std::floor(std::clamp(v, -1e6, 1e6))); };
    return {whole(from[layout.right]), whole(-from[layout.ahead])};
}

Box3 box_of(const TileLayer& layer, Frame frame, const TileBox& cells) {
    Box3 box;
    if (cells.empty()) return box;
    box.add(place_of(layer, frame, {cells.low.column, cells.high.row - 1}, {0, 0}));
    box.add(place_of(layer, frame, {cells.high.column - 1, cells.low.row}, {1, 1}));
    return box;
}

TileLayer counted_anew(TileLayer layer, Frame frame) {
    const TileBox area = layer.grid.area();
    const CellAt low = area.low;
    if (area.empty() || low == CellAt{0, 0}) return layer;
    layer.origin = place_of(layer, frame, low, {0, 1});
    TileGridMaker maker;
    layer.grid.for_each_tile(area, [&](CellAt at, Tile tile) {
        maker.put({at.column - low.column, at.row - low.row}, tile);
    });
    layer.grid = maker.finished({{0, 0}, {area.columns(), area.rows()}});
    return layer;
}

} // namespace rubble
