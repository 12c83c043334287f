#include "sheet_maker.h"

#include <algorithm>

#include "base/ensure.h"
#include "edit/edging.h"

namespace rubble::demo {

SheetMaker::SheetMaker(const std::string& name, int cell_px, int columns, int rows)
    : picture_(blank(columns * cell_px, rows * cell_px)),
      columns_(columns),
      rows_(rows) {
    sheet_.file = "sheets/" + name + ".sheet.json";
    sheet_.image = name + ".png";
    sheet_.cut.cell_px = {cell_px, cell_px};
}

int SheetMaker::add(const std::string& name, const Draw& draw, TileCollision collision,
                    std::vector<Vec2> outline, TileActs acts) {
    RUBBLE_ENSURE(next_ < columns_ * rows_, return -1);
    SheetTile tile;
    tile.at = {next_ % columns_, next_ / columns_};
    tile.name = name, tile.collision = collision, tile.outline = std::move(outline), tile.acts = acts;
    const auto [left, top, width, height] = pixels_of(sheet_, tile);
    Canvas canvas(picture_, left, top, width, height);
    draw(canvas);
    const int number = next_tile_number(sheet_);
    sheet_.tiles[number] = std::move(tile);
    ++next_;
    return number;
}

int SheetMaker::add_large(const std::string& name, int columns, int rows, const Draw& draw) {
    const int px = sheet_.cut.cell_px[0], under = (next_ + columns_ - 1) / columns_;
    if (beside_ == 0 || beside_ + columns > columns_) beside_ = 0, top_ = under;
    RUBBLE_ENSURE(columns <= columns_ && top_ + rows <= rows_, return -1);
    Canvas canvas(picture_, beside_ * px, top_ * px, columns * px, rows * px);
    draw(canvas);
    const int first = next_tile_number(sheet_);
    for (int i = 0; i < columns * rows; ++i) {
        SheetTile tile;
        tile.at = {beside_ + i % columns, top_ + i / columns};
        tile.name = name;
        sheet_.tiles[first + i] = std::move(tile);
    }
    beside_ += columns;
    next_ = std::max(under, top_ + rows) * columns_;
    return first;
}

void SheetMaker::add_ground(const std::string& name, bool corners,
                            const std::function<void(Canvas&, GroundAround)>& draw, TileCollision collision) {
    Edging edging;
    edging.name = name;
    for (const GroundAround& around : edit::edging_cases(corners))
        edging.tiles[around] = add(
            name, [&](Canvas& canvas) { draw(canvas, around); }, collision);
    sheet_.edgings.push_back(std::move(edging));
}

TileSheet SheetMaker::finished() {
    sheet_.picture = std::make_shared<const Picture>(picture_);
    return sheet_;
}

} // namespace rubble::demo
