#include "tiles/tile_picture.h"

#include <algorithm>

#include "edit/items.h"
#include "text.h"
#include "theme.h"

namespace rubble::app {

QImage image_of(const TileSheet& sheet) {
    if (!sheet.picture || sheet.picture->width < 1) return {};
    // The image reads the sheet's own bytes and keeps them alive.
    const auto* held = new std::shared_ptr<const Picture>(sheet.picture);
    return QImage(
        sheet.picture->rgba.data(), sheet.picture->width, sheet.picture->height, sheet.picture->width * 4,
        QImage::Format_RGBA8888,
        [](void* own) { delete static_cast<const std::shared_ptr<const Picture>*>(own); },
        const_cast<std::shared_ptr<const Picture>*>(held));
}

void draw_tile(QPainter& painter, const QRectF& box, const TileSheet* sheet, Tile tile) {
    if (tile.empty()) return;
    const SheetTile* own = sheet ? sheet->tile(tile.number()) : nullptr;
    if (!own || !sheet->picture) {
        painter.fillRect(box, color::stone);
        painter.setPen(color::stone.darker(115));
        painter.drawRect(box);
        return;
    }
    const auto [left, top, width, height] = pixels_of(*sheet, *own);
    painter.save();
    painter.setRenderHint(QPainter::SmoothPixmapTransform, false);
    painter.translate(box.center());
    painter.rotate(-90 * tile.turns());
    if (tile.mirrored()) painter.scale(-1, 1);
    QRectF target(-box.width() / 2, -box.height() / 2, box.width(), box.height());
    if (tile.turns() % 2 == 1) target = QRectF(target.y(), target.x(), target.height(), target.width());
    painter.drawImage(target, image_of(*sheet), QRectF(left, top, width, height));
    painter.restore();
}

double cell_for(const Project& project, const std::string& sheet_file) {
    const auto sheet = find_sheet(project, sheet_file);
    const double cell = sheet ? std::max(sheet->cut.cell_px[0], sheet->cut.cell_px[1]) / project.pixels_per_m
                              : project.grid_m;
    return std::clamp(cell, smallest_cell_m, largest_cell_m);
}

Layer new_tile_layer(const Level& level, const Project& project, const std::string& sheet_file) {
    const bool first = std::none_of(level.layers.begin(), level.layers.end(),
                                    [](const Shared<Layer>& layer) { return layer->tiles.has_value(); });
    Layer layer;
    layer.id = edit::fresh_layer_id(level);
    layer.name = (first ? tr("Ground") : tr("Tiles %1").arg(level.layers.size())).toStdString();
    TileLayer tiles;
    tiles.sheet_file = sheet_file;
    tiles.sheet = find_sheet(project, sheet_file);
    tiles.cell_m = cell_for(project, sheet_file);
    tiles.solid = first;
    tiles.depth = first ? 0 : 1;
    layer.tiles = Shared<TileLayer>(std::move(tiles));
    return layer;
}

} // namespace rubble::app
