#include "tools/prop_tool.h"

#include <cmath>

#include "edit/items.h"
#include "edit/props.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

std::optional<PlacedPiece> PropTool::in_hand() const {
    const auto kit = find_kit(session_.project(), session_.looking().kit());
    PlacedPiece prop;
    prop.piece = kit ? kit->piece(session_.looking().piece()) : nullptr;
    if (!prop.piece) return {};
    prop.kit_file = kit->file, prop.piece_id = prop.piece->id;
    prop.place.turn_deg = turn_deg_;
    return prop;
}

void PropTool::press(const Pointer& pointer) {
    const auto prop = in_hand();
    if (!prop) return session_.documents().show_message(tr("Choose a prop in the tray first"));
    if (!is_prop(*prop))
        return session_.documents().show_message(tr("%1 sits on its kit's module: place it in Block out")
                                                     .arg(QString::fromStdString(prop->piece->name)));
    put_ = carry_.under(pointer, *prop);
    if (!put_) session_.documents().show_message(tr("Nothing is there to stand on"));
    from_ = pointer.screen;
}

void PropTool::move(const Pointer& pointer) {
    if (!put_) {
        const auto prop = in_hand();
        hover_ = prop && is_prop(*prop) ? carry_.under(pointer, *prop) : std::nullopt;
        return;
    }
    if (distance(from_, pointer.screen) < 2 * k_drag_px) return;
    const auto at = meet_plane(pointer.ray, put_->place.at, {0, 0, 1});
    if (!at) return;
    const Vec2 way = flat(*at - put_->place.at);
    if (glm::length(way) < 1e-3) return;
    const double step = snap_turn(session_, pointer), raw = degrees(std::atan2(way.y, way.x));
    const double to = step > 0 ? std::round(raw / step) * step : raw;
    const Vec3 ahead = put_->place.direction({1, 0, 0});
    turn_by(to - degrees(std::atan2(ahead.y, ahead.x)));
    ItemId id;
    session_.preview(with_put(id));
}

void PropTool::turn_by(double deg) {
    for (auto* prop : {&hover_, &put_})
        if (*prop) *prop = edit::turned_about_itself(**prop, deg);
    turn_deg_ = std::remainder(turn_deg_ + deg, 360.0);
}

bool PropTool::turn_quarters(int quarters) {
    if (!hover_ && !put_) return false;
    turn_by(90.0 * quarters);
    return true;
}

bool PropTool::wheel(const Pointer& pointer, int steps) {
    if (!(pointer.keys & Qt::ShiftModifier) || !turns()) return false;
    turn_by(session_.project().turn_step_deg * steps);
    return true;
}

Level PropTool::with_put(ItemId& id) const {
    Item item;
    id = item.id = edit::fresh_id(session_.stored_level(), id_prefix(*put_));
    item.body = *put_;
    return edit::with_item(session_.stored_level(), session_.layer(), std::move(item));
}

void PropTool::put_down() {
    if (!put_) return;
    ItemId id;
    Level level = with_put(id);
    session_.drop_preview();
    put_.reset();
    session_.apply(std::move(level), tr("Place a prop"));
    session_.select({id});
}

void PropTool::release(const Pointer&) { put_down(); }

void PropTool::confirm() {
    if (!put_) put_ = hover_;
    put_down();
}

bool PropTool::escape() {
    if (!put_) return false;
    put_.reset();
    session_.drop_preview();
    return true;
}

void PropTool::paint(QPainter& painter, const Camera& camera) {
    const auto& shown = put_ ? put_ : hover_;
    if (!shown) return;
    painter.setPen(QPen(color::accent, 1.5));
    draw_piece(painter, camera, *shown);
}

QString PropTool::hint() const {
    if (session_.looking().piece().empty())
        return tr("Choose a prop in the tray, then click where it stands");
    return tr("Click to put it there, drag to turn it; Space and Shift+wheel turn it before");
}

} // namespace rubble::app
