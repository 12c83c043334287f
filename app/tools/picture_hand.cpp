#include "tools/picture_hand.h"

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/sheet_pictures.h"
#include "theme.h"
#include "tiles/tile_picture.h"
#include "tools/snap.h"

namespace rubble::app {

namespace {

/// The tile in the hand, where it is a picture of its own size.
const SheetTile* in_hand(Session& session) {
    const auto sheet = find_sheet(session.project(), session.looking().sheet());
    const edit::Stamp& stamp = session.looking().stamp();
    if (!sheet || stamp.tiles.empty()) return nullptr;
    const SheetTile* tile = sheet->tile(stamp.tiles[0].number());
    return tile && tile->box_px ? tile : nullptr;
}

} // namespace

std::optional<Vec3> place_for_picture(Session& session, const Pointer& pointer) {
    const Level& level = session.level();
    if (!in_hand(session) || level.frame == Frame::space) return {};
    const FrameLayout layout = layout_of(level.frame);
    auto at = meet_plane(pointer.ray, Vec3(0), along(layout.out));
    if (!at) return {};
    const double grid = snap_grid(session, pointer) / 2;
    for (const int axis : {layout.right, layout.ahead}) (*at)[axis] = edit::snapped((*at)[axis], grid);
    return at;
}

std::optional<Item> picture_in_hand(Session& session, const Vec3& at) {
    const SheetTile* tile = in_hand(session);
    if (!tile) return {};
    PlacedPicture picture;
    picture.sheet_file = session.looking().sheet();
    picture.sheet = find_sheet(session.project(), picture.sheet_file);
    picture.number = session.looking().stamp().tiles[0].number();
    picture.mirrored = session.looking().stamp().tiles[0].mirrored();
    picture.at = at;
    picture.size = Vec2((*tile->box_px)[2], (*tile->box_px)[3]) / session.project().pixels_per_m;
    picture.upright = session.level().frame == Frame::side;
    picture.solid = tile->collision != TileCollision::none;
    if (!problem_of(picture).empty()) return {};
    return Item{edit::fresh_id(session.stored_level(), id_prefix(picture)), tile->name, false, picture, {}};
}

void draw_picture_in_hand(QPainter& painter, const Camera& camera, Session& session, const Vec3& at) {
    const auto item = picture_in_hand(session, at);
    if (!item) return;
    const PictureSides sides = sides_of(*item->picture());
    const auto upper = camera.to_screen(sides.corner + sides.up),
               lower = camera.to_screen(sides.corner + sides.right);
    if (!upper || !lower) return;
    const QRectF box = QRectF(*upper, *lower).normalized();
    painter.setOpacity(0.75);
    draw_tile(painter, box, item->picture()->sheet.get(),
              Tile(item->picture()->number, item->picture()->mirrored));
    painter.setOpacity(1);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(color::accent, 1.6));
    painter.drawRect(box);
}

} // namespace rubble::app
