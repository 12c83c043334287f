#include "level/tiles/tile_sheet.h"

#include <algorithm>

namespace rubble {

std::array<int, 2> cells_in(const SheetCut& cut, int width, int height) {
    std::array<int, 2> count{};
    const std::array<int, 2> size{width, height};
    for (size_t axis = 0; axis < 2; ++axis) {
        const int pitch = cut.cell_px[axis] + cut.spacing_px;
        if (cut.cell_px[axis] < 1 || pitch < 1) return {0, 0};
        // The last cell needs no spacing after it.
        count[axis] = std::max(0, (size[axis] - cut.margin_px + cut.spacing_px) / pitch);
    }
    return count;
}

int next_tile_number(const TileSheet& sheet) {
    return sheet.tiles.empty() ? 0 : sheet.tiles.rbegin()->first + 1;
}

std::array<int, 4> pixels_of(const TileSheet& sheet, const SheetTile& tile) {
    if (tile.box_px) return *tile.box_px;
    const SheetCut& cut = sheet.cut;
    return {cut.margin_px + tile.at[0] * (cut.cell_px[0] + cut.spacing_px),
            cut.margin_px + tile.at[1] * (cut.cell_px[1] + cut.spacing_px), cut.cell_px[0], cut.cell_px[1]};
}

std::vector<Vec2> collision_outline(const TileSheet* sheet, int number) {
    const std::vector<Vec2> whole{{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    if (number < 0) return {};
    if (!sheet) return whole;
    const SheetTile* tile = sheet->tile(number);
    if (!tile) return whole;
    switch (tile->collision) {
    case TileCollision::none:
        // What kills does so in its outline, else in all of its cell.
        if (tile->acts == TileActs::nothing) return {};
        return tile->outline.empty() ? whole : tile->outline;
    case TileCollision::full:
        return whole;
    case TileCollision::one_way:
        return tile->outline.empty() ? whole : tile->outline;
    case TileCollision::outline:
        break;
    }
    return tile->outline;
}

bool in_outline(const std::vector<Vec2>& outline, Vec2 p) {
    bool in = false;
    for (size_t i = 0, k = outline.size() - 1; i < outline.size(); k = i++) {
        const Vec2 a = outline[i], b = outline[k];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) in = !in;
    }
    return in;
}

Vec2 placed(const Tile& tile, Vec2 p) {
    if (tile.mirrored()) p.x = 1 - p.x;
    for (int i = 0; i < tile.turns(); ++i) p = {1 - p.y, p.x};
    return p;
}

} // namespace rubble
