#include "tools/select_tool.h"

#include <cmath>

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/pieces.h"
#include "edit/repeats.h"
#include "level/brush_shape.h"
#include "level/dressing/light.h"
#include "level/element_kinds.h"
#include "level/item_search.h"
#include "level/order.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/cut_catch.h"
#include "tools/picture_catch.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_thinnest_item_m = 0.01;

/// From where to where a brush's own box reaches along a direction.
std::pair<double, double> range_along(const Vec3& way, const Brush& brush) {
    const Box3 box = own_box(brush);
    double low = 1e18, high = -1e18;
    for (int i = 0; i < 8; ++i) {
        const double at = glm::dot(
            way, brush.place.to_level({i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                                       i & 4 ? box.high.z : box.low.z}));
        low = std::min(low, at), high = std::max(high, at);
    }
    return {low, high};
}

/// How far an opening can be moved along a direction and stay in its wall.
double kept_within(double amount, const Vec3& way, const Brush& opening, const Brush& wall) {
    const auto [low, high] = range_along(way, opening);
    const auto [from, to] = range_along(way, wall);
    return high - low > to - from ? amount : std::clamp(amount, from - low, to - high);
}

} // namespace

std::optional<ItemId> SelectTool::element_under(const Pointer& pointer) const {
    std::optional<ItemId> best;
    double nearest = 16;
    for (const Item* item : session_.shown_elements()) {
        const auto at = pointer.camera.to_screen(item->element()->at);
        if (!at) continue;
        const double d = distance(*at - QPointF(0, 10), pointer.screen);
        if (d < nearest) nearest = d, best = item->id;
    }
    return best;
}

std::optional<ItemId> SelectTool::leaf_under(const Pointer& pointer) const {
    if (auto element = element_under(pointer)) return element;
    if (auto cut = cut_under(session_, pointer)) return cut;
    if (auto picture = picture_under(session_, pointer)) return picture;
    if (pointer.hit && !pointer.hit->item.empty() && find_item(session_.level(), pointer.hit->item))
        return is_locked(session_.level(), pointer.hit->item) ? std::nullopt
                                                              : std::optional(pointer.hit->item);
    if (pointer.hit && session_.built().solid &&
        size_t(pointer.hit->brush) < session_.built().solid->brushes.size()) {
        const ItemId& id = session_.built().solid->brushes[size_t(pointer.hit->brush)]->item;
        if (!is_locked(session_.level(), id)) return id;
    }
    return {};
}

std::optional<ItemId> SelectTool::item_under(const Pointer& pointer) const {
    const auto leaf = leaf_under(pointer);
    if (!leaf || session_.stage() == Stage::dress) return leaf; // faces are dressed wherever they stand
    const auto path = path_to(session_.level(), *leaf);
    if (path.size() < 2) return leaf;
    const auto selected = [&](const Item* item) {
        const auto& ids = session_.selection();
        return std::find(ids.begin(), ids.end(), item->id) != ids.end();
    };
    // As deep as one works already: at what is selected itself, or beside it in its group.
    for (size_t depth = path.size(); depth-- > 0;) {
        if (selected(path[depth])) return path[depth]->id;
        const ItemList* members = depth > 0 ? members_of(*path[depth - 1]) : nullptr;
        if (members && std::any_of(members->begin(), members->end(),
                                   [&](const ItemPtr& member) { return selected(member.get()); }))
            return path[depth]->id;
    }
    return path[0]->id;
}

/// From a selected group or assembly to what in it is under the pointer, one group at a time.
void SelectTool::go_into_group(const Pointer& pointer) {
    const auto leaf = leaf_under(pointer);
    const Item* item = session_.selected();
    if (!leaf || !item || !members_of(*item)) return;
    const auto path = path_to(session_.level(), *leaf);
    for (size_t i = 0; i + 1 < path.size(); ++i)
        if (path[i] == item) return session_.select({path[i + 1]->id});
}

void SelectTool::press(const Pointer& pointer) {
    on_selected_ = false;
    if (pointer.keys & Qt::ShiftModifier) {
        // With Shift a dot sizes all of the brush in proportion.
        hover_handle(pointer);
        if (hover_handle_ && hover_handle_->grip == Grip::side && press_handle(pointer)) {
            drag_->grip = Grip::size, drag_->copies = false;
            return;
        }
        frame_.begin(pointer.screen); // or a click that adds, which is told when the button is let go
        return;
    }
    const bool taken = lays_.press(pointer) || press_handle(pointer) || grips_.press(pointer);
    if (!taken) press_item(pointer);
}

/// On an edge or a face that was picked: its whole ring or row.
bool SelectTool::double_click(const Pointer& pointer) { return !busy() && grips_.pick_row(pointer); }

std::optional<Box3> SelectTool::worked_on() const {
    const Box3 box = selection_box(session_);
    return box.empty() ? std::nullopt : std::optional(box);
}

bool SelectTool::press_handle(const Pointer& pointer) {
    for (const ItemHandle& handle : handles_of(session_, pointer.camera)) {
        if (distance(handle.at, pointer.screen) > k_catch_px) continue;
        Drag drag;
        drag.before = session_.stored_level();
        drag.begin = pointer.screen;
        drag.ids = session_.selection();
        drag.grip = handle.grip, drag.side = handle.side, drag.anchor = handle.place, drag.axis = handle.axis;
        drag.copies = pointer.keys & Qt::ControlModifier && handle.grip != Grip::size;
        const Item* item = session_.selected();
        const Brush* brush = item ? item->brush() : nullptr;
        const Box3 box = selection_box(session_);
        const Vec3 beyond =
            brush ? edit::middle_of(*brush, BoxSide(int(handle.side) ^ 1)) : opposite(box, handle.side);
        drag.extent_m = glm::length(handle.place - beyond);
        const Vec3 axis = handle.grip == Grip::side   ? edit::outward(*brush, handle.side)
                          : handle.grip == Grip::size ? (handle.place - beyond) / drag.extent_m
                                                      : Vec3(0, 0, 1);
        if (handle.grip == Grip::side || handle.grip == Grip::size) drag.axis = axis;
        drag.first = nearest_along(pointer.ray, handle.place, axis);
        drag.reference = brush ? brush->place.at : Vec3(box.middle().x, box.middle().y, box.low.z);
        drag.pivot = drag.reference;
        // What is sized keeps its other side, and stays on its ground.
        if (handle.grip == Grip::size || handle.grip == Grip::side) {
            drag.pivot = beyond;
            const bool upright = int(handle.side) / 2 == 2;
            if (!upright && brush)
                drag.pivot = edit::middle_of(*brush, BoxSide::bottom) - axis * (drag.extent_m / 2);
            if (!upright && !brush) drag.pivot.z = box.low.z;
        }
        drag_ = drag;
        return true;
    }
    return false;
}

void SelectTool::hover_handle(const Pointer& pointer) {
    hover_handle_.reset();
    for (const ItemHandle& handle : handles_of(session_, pointer.camera))
        if (distance(handle.at, pointer.screen) <= k_catch_px) hover_handle_ = handle;
}

/// A click picks a face; with Shift one more or one less, with Alt its look is given to those that are
/// picked.
void SelectTool::press_face(const Pointer& pointer, const edit::FaceRef& face) {
    std::vector<edit::FaceRef> faces = session_.selected_items().faces();
    if (pointer.keys & Qt::AltModifier && !faces.empty()) {
        const Item* item = find_item(session_.level(), face.item);
        const Look look = edit::look_of(*item->brush(), face.face);
        session_.apply(edit::with_looks(session_.stored_level(), faces, [&](const Look&) { return look; }),
                       tr("Take the look of a face"));
        return;
    }
    const auto known = std::find(faces.begin(), faces.end(), face);
    if (!(pointer.keys & Qt::ShiftModifier))
        faces = {face};
    else if (known == faces.end())
        faces.push_back(face);
    else
        faces.erase(known);
    session_.selected_items().pick_faces(std::move(faces));
}

/// A click adds what is under the pointer to the selection, or takes it away.
void SelectTool::press_item(const Pointer& pointer) {
    const bool adds = pointer.keys & Qt::ShiftModifier;
    const auto under = item_under(pointer);
    const Item* item = under ? find_item(session_.level(), *under) : nullptr;
    if (session_.stage() == Stage::dress && item && item->brush() && pointer.hit && pointer.hit->brush >= 0)
        return press_face(pointer, {*under, pointer.hit->face});
    if (!under) {
        if (!adds) frame_.begin(pointer.screen);
        return;
    }
    std::vector<ItemId> ids = session_.selection();
    const auto place = std::find(ids.begin(), ids.end(), *under);
    if (adds) {
        if (place == ids.end())
            ids.push_back(*under);
        else
            ids.erase(place);
        session_.select(ids);
        return;
    }
    on_selected_ = place != ids.end() && ids.size() == 1;
    if (place == ids.end()) session_.select({*under});
    // Dressing changes looks, not places; but props, lights and decals belong to it.
    const bool carries =
        session_.stage() == Stage::dress && !(pointer.keys & Qt::ControlModifier) && !pointer.camera.flat();
    if (carries && session_.selection().size() == 1 && carry_.take(pointer, *under)) return;
    if (session_.stage() == Stage::dress && !belongs_to_dressing(*item)) return;
    begin_drag(pointer, *under, {});
}

void SelectTool::begin_drag(const Pointer& pointer, const ItemId& id, Drag drag) {
    const Item* item = find_item(session_.level(), id);
    if (!item) return; // it was deleted since the picture was painted
    drag.before = session_.stored_level();
    drag.begin = pointer.screen;
    drag.ids = session_.selection();
    drag.grip = Grip::body;
    drag.copies = pointer.keys & Qt::ControlModifier;
    drag.anchor = pointer.hit && item->brush() ? pointer.hit->at
                  : item->element()            ? item->element()->at
                                               : pointer.ground;
    if (item->picture()) // where it was taken
        drag.anchor =
            meet_plane(pointer.ray, item->picture()->at, pointer.camera.forward()).value_or(drag.anchor);
    // A cut is taken where one looks into it, not by what is seen through it.
    if (item->brush() && item->brush()->effect == Effect::cut)
        if (const auto enters = entry_into(pointer.ray, *item->brush()))
            drag.anchor = pointer.ray.at(*enters);
    drag.reference = selection_box(session_).low;
    drag_ = drag;
}

/// Points of the selected brush that the frame holds, unless it holds all of it; else items.
void SelectTool::take_frame(const Pointer& pointer) {
    const bool adds = pointer.keys & Qt::ShiftModifier;
    const QRectF rectangle = frame_.rectangle();
    std::set<int> points = grips_.points_within(rectangle, pointer.camera);
    if (!points.empty() && points.size() < session_.body()->corners.size()) {
        Picks picks = adds ? session_.picks() : Picks{};
        picks.points.merge(points);
        session_.pick(picks);
        return;
    }
    std::vector<ItemId> ids = adds ? session_.selection() : std::vector<ItemId>{};
    for (const ItemId& id : items_within(session_.level(), rectangle, pointer.camera))
        if (std::find(ids.begin(), ids.end(), id) == ids.end()) ids.push_back(id);
    session_.select(ids);
}

/// An opening slides in its wall: along it, and up and down.
bool SelectTool::slide_opening(const Pointer& pointer, double grid) {
    const Item* item = drag_->ids.size() == 1 ? find_item(drag_->before, drag_->ids[0]) : nullptr;
    const Brush* brush = item ? item->brush() : nullptr;
    if (!brush || brush->host.empty() || drag_->copies) return false;
    const Vec3 along = brush->place.direction({1, 0, 0}), through = brush->place.direction({0, 1, 0});
    const auto at = meet_plane(pointer.ray, drag_->anchor, through);
    if (!at) return true;
    const Vec3 by = *at - drag_->anchor;
    const Item* host = find_item(drag_->before, brush->host);
    drag_->by = Vec3(0);
    for (const Vec3& way : {along, Vec3(0, 0, 1)}) {
        double amount = edit::snapped(glm::dot(by, way), grid / 2);
        if (host && host->brush()) amount = kept_within(amount, way, *brush, *host->brush());
        drag_->by += way * amount;
    }
    return true;
}

/// In the level's plane, or, seen from the side, in the plane of the view.
void SelectTool::drag_body(const Pointer& pointer, double grid) {
    const Vec3 normal = pointer.camera.flat() ? pointer.camera.forward() : Vec3(0, 0, 1);
    const auto at = meet_plane(pointer.ray, drag_->anchor, normal);
    if (!at) return;
    const Vec3 raw = drag_->reference + (*at - drag_->anchor);
    if (pointer.snaps())
        if (const auto by = edit::move_on_module(session_.project(), drag_->before, drag_->ids,
                                                 raw - drag_->reference, session_.looking().module_part())) {
            drag_->by = *by;
            if (std::abs(normal.z) > 0.5) drag_->by.z = 0;
            return;
        }
    const double catch_m = snap_catch(session_, pointer, raw);
    drag_->guide = snap(drag_->before, drag_->ids, raw, grid, catch_m);
    drag_->by = drag_->guide.at - drag_->reference;
    drag_->by.z = 0;
    if (std::abs(normal.z) > 0.5) return;
    const double z = snap_along(drag_->before, drag_->ids, raw, 2, raw.z, grid, catch_m);
    drag_->by -= normal * glm::dot(drag_->by, normal);
    drag_->by.z = z - drag_->reference.z;
}

void SelectTool::move(const Pointer& pointer) {
    if (grips_.busy()) return grips_.move(pointer);
    if (carry_.busy()) return carry_.move(pointer);
    if (lays_.busy()) return lays_.move(pointer);
    if (frame_.open()) return frame_.move(pointer.screen);
    if (!drag_) {
        grips_.hover(pointer);
        hover_ = item_under(pointer);
        hover_handle(pointer);
        return;
    }
    if (!drag_->moved && distance(drag_->begin, pointer.screen) < k_drag_px) return;
    drag_->moved = true;
    const double grid = snap_grid(session_, pointer);
    switch (drag_->grip) {
    case Grip::body:
        if (!slide_opening(pointer, grid)) drag_body(pointer, grid);
        break;
    case Grip::raise: {
        const double raw = nearest_along(pointer.ray, drag_->anchor, {0, 0, 1}) - drag_->first;
        const double catch_m = snap_catch(session_, pointer, drag_->anchor);
        const double from = drag_->reference.z;
        const double to = snap_along(drag_->before, drag_->ids, drag_->anchor, 2, from + raw, grid, catch_m);
        drag_->by = {0, 0, to - from};
        break;
    }
    case Grip::side: {
        const Brush& brush = *find_item(drag_->before, drag_->ids[0])->brush();
        const Vec3 axis = edit::outward(brush, drag_->side);
        const double raw = nearest_along(pointer.ray, drag_->anchor, axis) - drag_->first;
        if (drag_->copies) {
            // A copy goes along the axis, and catches where it stands against its original.
            const double own = brush.size[int(drag_->side) / 2];
            const bool against = std::abs(raw - own) < snap_catch(session_, pointer, drag_->anchor);
            drag_->by = axis * (against ? own : edit::snapped(raw, grid));
            break;
        }
        // Straight boxes put the face itself onto the grid, turned ones their size.
        const double along = glm::dot(drag_->anchor, axis);
        const bool straight = std::abs(std::abs(axis.x) + std::abs(axis.y) + std::abs(axis.z) - 1) < 1e-9;
        if (straight) {
            // The face's own coordinate, counted along the level's axis.
            const int axis_index = std::abs(axis.x) > 0.5 ? 0 : std::abs(axis.y) > 0.5 ? 1 : 2;
            const double sign = axis[axis_index], catch_m = snap_catch(session_, pointer, drag_->anchor);
            const double to = snap_along(drag_->before, drag_->ids, drag_->anchor, axis_index,
                                         sign * (along + raw), grid, catch_m);
            drag_->amount = sign * to - along;
        } else {
            const double base = straight ? along : brush.size[int(drag_->side) / 2];
            drag_->amount = edit::snapped(base + raw, grid) - base;
        }
        break;
    }
    case Grip::turn: {
        if (const auto at = meet_plane(pointer.ray, drag_->anchor, drag_->axis)) {
            const auto across = [&](const Vec3& p) {
                const Vec3 out = p - drag_->pivot;
                return out - drag_->axis * glm::dot(out, drag_->axis);
            };
            const Vec3 was = across(drag_->anchor), now = across(*at);
            const double raw =
                degrees(std::atan2(glm::dot(glm::cross(was, now), drag_->axis), glm::dot(was, now)));
            drag_->amount = edit::snapped(raw, snap_turn(session_, pointer));
        }
        break;
    }
    case Grip::size: {
        const double raw = nearest_along(pointer.ray, drag_->anchor, drag_->axis) - drag_->first;
        drag_->amount = std::max(edit::snapped(drag_->extent_m + raw, grid), k_thinnest_item_m);
        break;
    }
    }
    show();
}

edit::Copies SelectTool::copies() const {
    if (drag_->grip != Grip::turn) return edit::duplicated(drag_->before, drag_->ids, drag_->by);
    edit::Copies out = edit::duplicated(drag_->before, drag_->ids, Vec3(0));
    out.level = edit::turned(out.level, out.ids, drag_->pivot, drag_->amount, drag_->axis);
    return out;
}

Level SelectTool::result() const {
    const Level& before = drag_->before;
    if (drag_->copies) return copies().level;
    switch (drag_->grip) {
    case Grip::body:
    case Grip::raise:
        return edit::moved(before, drag_->ids, drag_->by);
    case Grip::side: {
        Item item = *find_item(before, drag_->ids[0]);
        item.body = edit::stretched(*item.brush(), drag_->side, drag_->amount, k_thinnest_item_m);
        return edit::with_changed(before, item);
    }
    case Grip::turn:
        return edit::turned(before, drag_->ids, drag_->pivot, drag_->amount, drag_->axis);
    case Grip::size:
        return edit::scaled(before, drag_->ids, drag_->pivot, drag_->amount / drag_->extent_m);
    }
    return before;
}

QString SelectTool::what() const {
    if (drag_->copies) return tr("Duplicate");
    switch (drag_->grip) {
    case Grip::body:
        return tr("Move");
    case Grip::raise:
        return tr("Move");
    case Grip::side:
        return tr("Stretch");
    case Grip::turn:
        return tr("Turn");
    case Grip::size:
        return tr("Size in proportion");
    }
    return {};
}

void SelectTool::show() {
    if (drag_->moved) session_.preview(result());
}

void SelectTool::release(const Pointer& pointer) {
    if (grips_.busy()) return grips_.release(pointer);
    if (carry_.busy()) {
        carry_.move(pointer);
        return carry_.put_down();
    }
    if (lays_.busy()) {
        lays_.move(pointer);
        return lays_.release();
    }
    if (frame_.open()) {
        const bool adds = pointer.keys & Qt::ShiftModifier;
        frame_.move(pointer.screen);
        if (frame_.end())
            take_frame(pointer);
        else if (!adds)
            session_.select({});
        else if (grips_.press(pointer))
            grips_.confirm();
        else if (!grips_.click(pointer))
            press_item(pointer);
        return;
    }
    if (!drag_) return;
    move(pointer);
    const bool clicked = !drag_->moved && (on_selected_ || drag_->grip == Grip::side);
    confirm();
    if (!clicked) return;
    if (session_.selected() && members_of(*session_.selected()))
        go_into_group(pointer);
    else
        grips_.click(pointer);
}

void SelectTool::confirm() {
    if (grips_.busy()) return grips_.confirm();
    if (carry_.busy()) return carry_.put_down();
    if (lays_.busy()) return lays_.release();
    if (!drag_) return;
    if (drag_->moved) {
        const edit::Copies made = drag_->copies ? copies() : edit::Copies{result(), {}};
        const QString name = what();
        drag_.reset();
        session_.apply(made.level, name);
        if (!made.ids.empty()) session_.select(made.ids);
    } else {
        drag_.reset();
    }
}

void SelectTool::typed(const QString& text) {
    const bool angle = !grips_.busy() && drag_ && drag_->grip == Grip::turn;
    const auto value = angle ? parse_number(text) : parse_metres(text);
    if (!value) return;
    if (grips_.busy()) return grips_.typed(*value);
    if (!drag_ || !drag_->moved) return;
    if (drag_->grip == Grip::side && !drag_->copies) {
        // The number is the new size.
        const Brush& brush = *find_item(drag_->before, drag_->ids[0])->brush();
        drag_->amount = *value - brush.size[int(drag_->side) / 2];
    } else if (drag_->grip == Grip::turn) {
        drag_->amount = *value;
    } else if (drag_->grip == Grip::size) {
        drag_->amount = std::max(*value, k_thinnest_item_m); // the new size along the way dragged
    } else if (const double length = glm::length(drag_->by); length > 1e-9) {
        drag_->by *= *value / length;
    }
    show();
}

bool SelectTool::escape() {
    if (frame_.open()) {
        frame_.end();
        return true;
    }
    if (grips_.escape()) return true;
    if (carry_.busy() || lays_.busy()) {
        carry_.put_back(), lays_.put_back();
        return true;
    }
    if (drag_) {
        drag_.reset();
        session_.drop_preview();
        return true;
    }
    if (session_.selection().empty()) {
        const bool marked = session_.looking().picked_area().has_value();
        session_.looking().set_picked_area({});
        return marked;
    }
    const auto path = path_to(session_.level(), session_.selection()[0]);
    session_.select(path.size() > 1 ? std::vector<ItemId>{path[path.size() - 2]->id} : std::vector<ItemId>{});
    return true;
}

QString SelectTool::hint() const {
    if (const QString grips = grips_.hint(); !grips.isEmpty()) return grips;
    if (drag_ && drag_->moved)
        return tr("Type a number to set it exactly. Alt ignores the grid, Escape cancels");
    if (session_.stage() == Stage::dress)
        return tr(
            "Click a face, Shift adds more; then click a material. Alt+click takes another face's look");
    if (session_.selection().empty())
        return tr("Click to select, drag to move, Ctrl+drag to duplicate, Shift+drag for a frame");
    const Item* item = session_.selected();
    if (item && item->group())
        return tr("Drag, arrow and rings move all of the group, squares size it; click again to go into it");
    if (item && item->assembly())
        return tr("Drag to move; click again to go into it and change something for this place alone");
    if (!item || !item->brush())
        return tr("Drag to move, the arrow raises, the ring turns; with Ctrl each makes a copy");
    return tr("Dots stretch, with Shift in proportion; the arrow raises, rings turn, with Ctrl a copy; "
              "squares reshape");
}

void SelectTool::paint_handles(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    for (const ItemId& id : session_.selection())
        if (const Item* item = find_item(session_.level(), id); item && item->brush()) {
            painter.setPen(QPen(color::accent, 2));
            draw_outline(painter, camera, *item->brush());
        }
    for (const ItemHandle& handle : handles_of(session_, camera))
        draw_handle(painter, session_, camera, handle, hover_handle_ && hover_handle_->same_as(handle));
}

void SelectTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    draw_picked_area(painter, camera, session_);
    const Level& level = session_.level();
    if (hover_ && !drag_ && !grips_.busy() && !frame_.open())
        if (const Item* item = find_item(level, *hover_)) {
            painter.setPen(QPen(color::accent, 1, Qt::DotLine));
            if (item->brush()) draw_outline(painter, camera, *item->brush());
            if (item->group() || item->picture() || item->assembly() || item->tiles())
                draw_box(painter, camera, box_of(*item));
            if (item->piece()) draw_piece(painter, camera, *item->piece());
        }
    // Copies that follow what is selected are seen with it: what changes here changes there.
    painter.setPen(QPen(color::blue_grey, 1.6, Qt::DashDotLine));
    for (const ItemId& id : session_.selection())
        for (const ItemId& copy : edit::linked_to(level, id))
            if (const Item* item = find_item(level, copy); item && item->brush())
                draw_outline(painter, camera, *item->brush());
    for (const ItemId& id : session_.selection()) {
        const Item* item = find_item(level, id);
        if (!item) continue;
        painter.setPen(
            QPen(color::accent, 2,
                 item->brush() && item->brush()->effect == Effect::cut ? Qt::DashLine : Qt::SolidLine));
        // Where faces are picked, they are what is meant, not their brushes.
        const bool by_faces = session_.stage() == Stage::dress && !session_.selected_items().faces().empty();
        if (item->brush() && !by_faces) draw_outline(painter, camera, *item->brush());
        if (item->group() || item->picture() || item->assembly() || item->tiles())
            draw_box(painter, camera, box_of(*item));
        if (item->piece()) draw_piece(painter, camera, *item->piece());
    }
    if (session_.stage() == Stage::dress)
        for (const edit::FaceRef& face : session_.selected_items().faces())
            if (const Item* item = find_item(session_.level(), face.item); item && item->brush()) {
                QColor hatch = color::accent;
                hatch.setAlphaF(0.25f);
                painter.setPen(QPen(color::accent, 2.5));
                painter.setBrush(QBrush(hatch, Qt::BDiagPattern));
                draw_face(painter, camera, *item->brush(), face.face);
                painter.setBrush(Qt::NoBrush);
            }
    for (const ItemHandle& handle : handles_of(session_, camera))
        draw_handle(painter, session_, camera, handle, hover_handle_ && hover_handle_->same_as(handle));
    lays_.paint(painter, camera);
    grips_.paint(painter, camera);
    frame_.paint(painter);
    if (!drag_ || !drag_->moved) return;
    Labels labels(painter);
    const Item* item = session_.selected();
    const Vec3 place = item ? box_of(*item).middle() : drag_->anchor;
    const auto at = camera.to_screen(place);
    if (!at) return;
    QString text;
    if (drag_->grip == Grip::turn)
        text = plain_number(drag_->amount) + QStringLiteral("°");
    else if (drag_->grip == Grip::size)
        text = metres_text(drag_->amount);
    else if (drag_->grip == Grip::side && !drag_->copies && item && item->brush())
        text = metres_text(item->brush()->size[int(drag_->side) / 2]);
    else
        text = metres_text(glm::length(drag_->by));
    labels.put(*at - QPointF(0, 30), text, color::accent, true);
    Box3 box;
    for (const ItemId& id : drag_->ids)
        if (const Item* moving = find_item(level, id)) box.add(box_of(*moving));
    if (!box.empty() && drag_->grip != Grip::turn) draw_surroundings(painter, camera, level, drag_->ids, box);
}

} // namespace rubble::app
