#include "drawn_rows.h"

namespace rubble::demo {

void for_each_letter(const std::vector<std::string>& rows, const std::function<void(CellAt, char)>& visit) {
    for (size_t row = 0; row < rows.size(); ++row)
        for (size_t column = 0; column < rows[row].size(); ++column)
            visit({int(column), int(row)}, rows[row][column]);
}

TileLayer tiles_at(Frame frame, Vec2 corner, double cell_m, const TileSheet& sheet) {
    TileLayer tiles;
    tiles.cell_m = cell_m;
    tiles.origin[layout_of(frame).right] = corner.x, tiles.origin[layout_of(frame).ahead] = corner.y;
    tiles.sheet = std::make_shared<const TileSheet>(sheet);
    tiles.sheet_file = sheet.file;
    return tiles;
}

Layer tile_layer(const std::string& id, const std::string& name, TileLayer tiles) {
    Layer layer;
    layer.id = {id}, layer.name = name;
    layer.tiles = Shared<TileLayer>(std::move(tiles));
    return layer;
}

void lay(TileGridMaker& maker, CellAt at, int first, int columns, int rows) {
    for (int i = 0; i < columns * rows; ++i)
        maker.put({at.column + i % columns, at.row + i / columns}, Tile(first + i));
}

Item element(const std::string& id, const std::string& kind, const std::string& name, Vec3 at,
             double facing_deg) {
    return {{id}, name, false, Element{kind, at, facing_deg, {}}, {}};
}

} // namespace rubble::demo
