#include "tools/place_tool.h"

#include <cmath>
#include <numbers>

#include <QCoreApplication>

#include "edit/brushes.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// The side of a cell where one goes from cell to cell.
std::optional<double> cell_size(const Session& session) {
    const auto& solid = session.built().solid;
    return solid && solid->cells ? std::optional(solid->cells->cell_m) : std::nullopt;
}

} // namespace

Vec3 PlaceTool::snapped(const Pointer& pointer) const {
    if (session_.level().frame == Frame::side) {
        // Near the ground it stands on it; higher up it hangs in the air.
        constexpr double k_near_ground_m = 1;
        const double grid = snap_grid(session_, pointer) / 2;
        const Vec3 at{edit::snapped(pointer.ground.x, grid), 0, edit::snapped(pointer.ground.z, grid)};
        const Vec3 below = ground_below(session_, {at.x, 0, pointer.ground.z});
        return pointer.ground.z - below.z <= k_near_ground_m ? below : at;
    }
    if (const auto& solid = session_.built().solid; solid && solid->cells) {
        const build::WalkedCells& cells = *solid->cells;
        return raised(cells.middle_of(cells.cell_at(flat(pointer.ground))), 0);
    }
    // Alt puts it onto what is pointed at, a wall or a ceiling too.
    if (pointer.hit && pointer.keys & Qt::AltModifier) return pointer.hit->at;
    if (pointer.hit)
        if (const auto foot = foot_of_wall(session_, *pointer.hit)) return *foot;
    Vec3 at = pointer.ground;
    const double grid = snap_grid(session_, pointer) / 2;
    at = {edit::snapped(at.x, grid), edit::snapped(at.y, grid), at.z};
    return at;
}

/// The next place of a way. What carries people comes up level with ground at another height, straight over
/// where it was.
Vec3 PlaceTool::next_place(const Element& element, const Vec3& last, const Vec3& to) const {
    if (kind_of(element).sign != Sign::platform) return to;
    const double thick = size_of(element).z;
    const bool other_height = std::abs(to.z - last.z) > thick + session_.character().step_height_m;
    if (session_.level().frame == Frame::space && other_height) return {last.x, last.y, to.z - thick};
    return to;
}

std::shared_ptr<const ElementKind> PlaceTool::kind() const {
    if (usual_.empty())
        if (auto own = find_own_kind(session_.project(), session_.looking().own_kind())) return own;
    if (usual_.empty())
        for (const auto& own : session_.project().element_kinds)
            if (!own->name.empty()) return own;
    return {std::shared_ptr<void>(), &kind_of(usual_)}; // it lives as long as the program
}

Element PlaceTool::made(const Vec3& at, const Vec3& to) const {
    const Level& level = session_.level();
    Element element = element_of(this->kind(), at);
    const ElementKind& kind = kind_of(element);
    const ElementField* size = kind.field("size_m");
    const bool lets_pass = acts_as(element) == "barrier"; // the way it faces
    if (level.frame == Frame::side && !lets_pass && (kind.sign == Sign::door || kind.sign == Sign::bars))
        element.facing_deg = 90; // across the plane that is played in
    if (wall_deg_) element.facing_deg = *wall_deg_;
    if (const auto cell = cell_size(session_); cell && size) {
        if (size->type == FieldType::number)
            element = with_value(std::move(element), size->key, *cell);
        else if (kind.sign == Sign::door || kind.sign == Sign::bars)
            element = with_value(std::move(element), size->key,
                                 lets_pass ? Vec3(*cell / 5, *cell, 2) : Vec3(*cell, *cell / 5, 2));
        else
            element = with_value(std::move(element), size->key, Vec3(*cell, *cell, size->usual_size.z));
    }
    if (const ElementField* way = kind.way(); way && glm::length(to - at) > 1e-6) {
        element =
            with_value(std::move(element), way->key, std::vector<Vec3>{at, next_place(element, at, to)});
        if (kind.field("way")) element = with_value(std::move(element), "way", std::string("back_and_forth"));
    }
    return element;
}

bool PlaceTool::lengthen_way(const Vec3& to) {
    const Item* item = session_.selected();
    const ElementField* field = item && item->element() ? kind_of(*item->element()).way() : nullptr;
    if (!field) return false;
    std::vector<Vec3> way = points_value(*item->element(), field->key);
    if (way.empty()) way.push_back(item->element()->at);
    way.push_back(next_place(*item->element(), way.back(), to));
    Item changed = *item;
    changed.body = with_value(*item->element(), field->key, way);
    session_.apply(edit::with_changed(session_.stored_level(), changed),
                   QCoreApplication::translate("PlaceTool", "Lengthen a way"));
    return true;
}

/// The selected element listens to the switch that is pointed at, or no longer.
bool PlaceTool::refer_to(const Vec3& at) {
    constexpr double k_near_m = 0.6;
    const Item* item = session_.selected();
    if (!item || !item->element()) return false;
    const auto& fields = kind_of(*item->element()).fields;
    const auto field = std::find_if(fields.begin(), fields.end(),
                                    [](const auto& one) { return one.type == FieldType::items; });
    if (field == fields.end()) return false;
    const Item* nearest = nullptr;
    for (const Item* other : elements_of(session_.level()))
        if (acts_as(*other->element()) == "switch" &&
            glm::length(flat(other->element()->at) - flat(at)) < k_near_m &&
            (!nearest || glm::length(other->element()->at - at) < glm::length(nearest->element()->at - at)))
            nearest = other;
    if (!nearest) return false;
    std::vector<std::string> ids = texts_value(*item->element(), field->key);
    if (std::erase(ids, nearest->id.value) == 0) ids.push_back(nearest->id.value);
    Item changed = *item;
    changed.body = with_value(*item->element(), field->key, ids);
    session_.apply(edit::with_changed(session_.stored_level(), changed),
                   QCoreApplication::translate("PlaceTool", "Choose what it listens to"));
    return true;
}

void PlaceTool::press(const Pointer& pointer) {
    if (seen_from_the_side(session_, pointer)) return;
    const Vec3 at = snapped(pointer);
    wall_deg_.reset();
    if (pointer.hit && pointer.keys & Qt::AltModifier && std::abs(pointer.hit->normal.z) < 0.7)
        wall_deg_ = std::atan2(pointer.hit->normal.y, pointer.hit->normal.x) * 180 / std::numbers::pi;
    if (pointer.keys & Qt::ControlModifier && (refer_to(at) || lengthen_way(at))) return;
    if (!kind()->way()) return put_down(at, at);
    pressed_ = at; // what has a way is dragged along it
}

void PlaceTool::release(const Pointer& pointer) {
    if (!pressed_) return;
    const Vec3 at = *pressed_;
    pressed_.reset();
    put_down(at, snapped(pointer));
}

bool PlaceTool::escape() {
    const bool was = pressed_.has_value();
    pressed_.reset();
    return was;
}

void PlaceTool::put_down(const Vec3& at, const Vec3& to) {
    const Level& level = session_.level();
    Item item{edit::fresh_id(level, kind()->id_prefix), {}, false, made(at, to), {}};
    size_t count = 1;
    const auto kind = this->kind();
    if (kind->key.empty())
        return session_.documents().show_message(QCoreApplication::translate(
            "PlaceTool", "The project has no kind of its own yet: Ctrl+Alt+K makes one"));
    for (const Item* other : elements_of(level)) count += other->element()->kind == kind->key;
    item.name = kind->name.empty() ? kind->key : kind->name;
    item.name[0] = char(std::toupper(static_cast<unsigned char>(item.name[0])));
    if (count > 1) item.name += " " + std::to_string(count);
    session_.apply(edit::with_item(level, session_.layer(), item),
                   QCoreApplication::translate("PlaceTool", "Place"));
    session_.select({item.id});
}

void PlaceTool::move(const Pointer& pointer) { hover_ = snapped(pointer); }

void PlaceTool::paint(QPainter& painter, const Camera& camera) {
    if (pressed_) {
        painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
        draw_line(painter, camera, *pressed_, hover_);
    }
    if (const auto at = camera.to_screen(hover_)) draw_element(painter, *at, *kind(), true);
}

QString PlaceTool::hint() const {
    if (kind()->sign == Sign::platform)
        return QCoreApplication::translate(
            "PlaceTool", "Drag to its next stop; Ctrl+click adds one, on higher ground straight above");
    if (kind()->way())
        return QCoreApplication::translate(
            "PlaceTool", "Drag from where it begins to where it turns back; Ctrl+click lengthens the way");
    const auto& fields = kind()->fields;
    if (std::any_of(fields.begin(), fields.end(), [](auto& one) { return one.type == FieldType::items; }))
        return QCoreApplication::translate(
            "PlaceTool", "Click where it should stand; Ctrl+click a switch that it is to listen to");
    return QCoreApplication::translate("PlaceTool",
                                       "Click where it should stand; with Alt on a wall or a ceiling");
}

} // namespace rubble::app
