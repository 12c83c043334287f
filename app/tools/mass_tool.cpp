#include "tools/mass_tool.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/angle.h"
#include "commands/massing.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "level/brush_shape.h"
#include "level/item_search.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// Part of a cell by which a place on a face is moved in, so that it lies in one of its cells.
constexpr double k_inside = 0.01;

Vec3 axis_of(const edit::MassArea& area) {
    Vec3 own(0);
    own[area.axis] = area.way;
    return own;
}

/// A place of the grid in the level.
Vec3 to_level(const Brush& mass, const Vec3& in_cells) {
    return mass.place.to_level(in_cells * mass.cells.cell_m);
}

/// What an area's slope is to the character; empty where it is level or upright.
QString slope_text(const Session& session, const Brush& mass, const edit::MassArea& area) {
    if (area.levels.empty()) return {};
    const auto corners = edit::surface_corners(mass.cells, area, area.levels.begin()->first);
    const Vec3 u = corners[1] - corners[0], v = corners[2] - corners[0];
    const Vec3 normal = mass.place.direction(glm::normalize(glm::cross(u, v)));
    const double deg = degrees(std::acos(std::min(1.0, std::abs(normal.z))));
    if (deg < 0.05 || deg > 89.95) return {};
    const Character c = session.character();
    const QString angle = QString::number(deg, 'f', 1) + QStringLiteral("°");
    return deg <= c.max_slope_deg + 0.1 ? tr("%1: %2 walks it").arg(angle, session.character_name())
                                        : tr("%1: too steep for %2").arg(angle, session.character_name());
}

} // namespace

const edit::MassArea* MassTool::area() const { return begun_ ? &begun_->area : session_.area(); }

const Brush* MassTool::mass() const {
    if (begun_) return &begun_->mass;
    const Item* item = session_.selected();
    return item ? item->brush() : nullptr;
}

/// The square of a mass's face at a place on it.
std::optional<MassTool::Spot> MassTool::spot_on(const ItemId& id, const Brush& mass, const Vec3& at,
                                                const Vec3& normal) const {
    const bool cut = mass.effect == Effect::cut; // one looks at it from inside
    const Vec3 own = mass.place.to_own(mass.place.at + normal) * (cut ? -1.0 : 1.0);
    Spot spot{id, mass, 2, 1, {0, 0}, 0};
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(own[axis]) > std::abs(own[spot.axis]) + 1e-6) spot.axis = axis;
    // A slope counts as the face that was sloped: the top, unless it is steeper than two to one.
    if (own.z * own.z > 0.2) spot.axis = 2;
    spot.way = own[spot.axis] > 0 ? 1 : -1;
    const Vec3 p = mass.place.to_own(at) / mass.cells.cell_m - own * k_inside;
    const auto whole = [&](int axis) { return int(std::floor(p[axis % 3])); };
    spot.square = {whole(spot.axis + 1), whole(spot.axis + 2)};
    const int cell = whole(spot.axis);
    const auto one = edit::area_between(mass.cells, spot.axis, spot.way, spot.square, spot.square,
                                        spot.way > 0 ? cell + 1 : cell, false);
    if (one.levels.empty()) return {};
    spot.line = one.levels.begin()->second;
    return spot;
}

/// Of the selected mass where its grid has a line at this height, else of one that would begin here.
MassTool::Spot MassTool::spot_on_ground(const Vec3& at) const {
    const Item* item = session_.selected();
    const Brush* brush = item ? item->brush() : nullptr;
    Spot spot;
    if (brush && brush->shape == Shape::mass && !brush->place.rotation && brush->effect == Effect::fill) {
        const double line = (at.z - brush->place.at.z) / brush->cells.cell_m;
        if (std::abs(line - std::round(line)) < 1e-4) spot.item = item->id, spot.mass = *brush;
    }
    if (spot.item.empty()) {
        spot.mass.shape = Shape::mass;
        spot.mass.cells.cell_m = std::clamp(session_.grid_m(), least_cell_m, most_cell_m);
        const double cell = spot.mass.cells.cell_m;
        spot.mass.place.at = {std::floor(at.x / cell) * cell, std::floor(at.y / cell) * cell, at.z};
        if (drag_ && drag_->from.item.empty()) spot.mass.place.at = drag_->from.mass.place.at;
    }
    const Vec3 p = spot.mass.place.to_own(at) / spot.mass.cells.cell_m;
    spot.square = {int(std::floor(p.x + 1e-9)), int(std::floor(p.y + 1e-9))};
    spot.line = int(std::lround(p.z));
    return spot;
}

std::optional<MassTool::Spot> MassTool::spot(const Pointer& pointer) const {
    if (pointer.hit && session_.built().solid &&
        size_t(pointer.hit->brush) < session_.built().solid->brushes.size()) {
        const ItemId& id = session_.built().solid->brushes[size_t(pointer.hit->brush)]->item;
        const Item* item = find_item(session_.level(), id);
        if (item && item->brush() && item->brush()->shape == Shape::mass && !is_locked(session_.level(), id))
            return spot_on(id, *item->brush(), pointer.hit->at, pointer.hit->normal);
        if (pointer.hit->normal.z < 0.999) return {}; // neither a mass nor level ground
    }
    return spot_on_ground(pointer.ground);
}

edit::MassArea MassTool::area_of(const Spot& from, const Spot& to) const {
    return edit::area_between(from.mass.cells, from.axis, from.way, from.square, to.square, from.line,
                              from.axis == 2 && from.way == 1);
}

std::vector<MassTool::Handle> MassTool::handles(const Camera& camera) const {
    std::vector<Handle> out;
    const edit::MassArea* marked = area();
    const Brush* brush = mass();
    if (!marked || !brush || (drag_ && drag_->grip == Grip::mark)) return out;
    const auto bounds = edit::bounds_of(*marked);
    double height = -1e18;
    for (const auto& [square, line] : marked->levels) height = std::max(height, double(line) * marked->way);
    // On the surface of the area where it has one there, else at its highest level.
    const auto place = [&](double u, double v) {
        const std::array<int, 2> square{std::min(int(std::floor(u)), bounds.high[0] - 1),
                                        std::min(int(std::floor(v)), bounds.high[1] - 1)};
        Vec3 p(0);
        p[marked->axis] = height * marked->way;
        p[(marked->axis + 1) % 3] = u, p[(marked->axis + 2) % 3] = v;
        if (!marked->levels.count(square)) return to_level(*brush, p);
        const auto corners = edit::surface_corners(brush->cells, *marked, square);
        double nearest = 1e18;
        double at = p[marked->axis];
        for (const Vec3& corner : corners) {
            const double far =
                std::abs(corner[(marked->axis + 1) % 3] - u) + std::abs(corner[(marked->axis + 2) % 3] - v);
            if (far < nearest) nearest = far, at = corner[marked->axis];
        }
        p[marked->axis] = at;
        return to_level(*brush, p);
    };
    const auto add = [&](Grip grip, edit::AreaEdge edge, const Vec3& at) {
        if (const auto screen = camera.to_screen(at)) out.push_back({grip, edge, at, *screen});
    };
    const double u0 = bounds.low[0], u1 = bounds.high[0], v0 = bounds.low[1], v1 = bounds.high[1];
    const Vec3 middle = place((u0 + u1) / 2, (v0 + v1) / 2);
    const Vec3 seen = brush->place.direction(axis_of(*marked)) * (brush->effect == Effect::cut ? -1.0 : 1.0);
    add(Grip::raise, {}, middle + seen * (36 * camera.metres_per_pixel(middle)));
    if (begun_) return out; // nothing to slope yet
    // On an area that is small on the screen the marks would lie on each other: corners go first.
    constexpr double k_room_px = 44, k_least_px = 20;
    const double across = std::min(u1 - u0, v1 - v0) * brush->cells.cell_m / camera.metres_per_pixel(middle);
    if (across < k_least_px) return out;
    for (const int u : {-1, 0, 1})
        for (const int v : {-1, 0, 1})
            if (u == 0 || v == 0 ? u != v : across >= k_room_px)
                add(Grip::tilt, {u, v},
                    place(u < 0   ? u0
                          : u > 0 ? u1
                                  : (u0 + u1) / 2,
                          v < 0   ? v0
                          : v > 0 ? v1
                                  : (v0 + v1) / 2));
    return out;
}

std::optional<MassTool::Handle> MassTool::handle_near(const Pointer& pointer) const {
    std::optional<Handle> best;
    double nearest = k_catch_px;
    for (const Handle& handle : handles(pointer.camera))
        if (const double d = distance(handle.at, pointer.screen); d <= nearest) nearest = d, best = handle;
    return best;
}

void MassTool::press(const Pointer& pointer) {
    Drag drag;
    if (const auto handle = handle_near(pointer)) {
        drag.grip = handle->grip, drag.edge = handle->edge, drag.anchor = handle->place;
        drag.first = nearest_along(pointer.ray, drag.anchor, mass()->place.direction(axis_of(*area())));
        drag.cells = mass()->cells, drag.area = *area();
        drag_ = drag;
        return;
    }
    const auto under = spot(pointer);
    if (!under) {
        emit session_.message(tr("Start a mass on level ground"));
        return;
    }
    drag.from = drag.to = *under;
    const Item* item = session_.selected();
    const bool same_item = !begun_ && item && item->id == under->item && session_.area();
    // A drag that begins on what is marked goes on from there.
    const bool on_marked = same_item && session_.area()->axis == under->axis &&
                           session_.area()->way == under->way && session_.area()->levels.count(under->square);
    drag.adds = same_item && ((pointer.keys & Qt::ShiftModifier) || on_marked);
    drag.alike = pointer.keys & Qt::ControlModifier;
    drag_ = drag;
}

void MassTool::move(const Pointer& pointer) {
    if (!drag_) {
        hot_ = handle_near(pointer);
        hover_ = hot_ ? std::nullopt : spot(pointer);
        return;
    }
    if (drag_->grip == Grip::mark) {
        // Along the plane in which it began, whatever stands in the way.
        const Brush& brush = drag_->from.mass;
        Vec3 own(0), at(0);
        own[drag_->from.axis] = drag_->from.way;
        at[drag_->from.axis] = drag_->from.line;
        at[(drag_->from.axis + 1) % 3] = drag_->from.square[0],
                                    at[(drag_->from.axis + 2) % 3] = drag_->from.square[1];
        if (const auto place = meet_plane(pointer.ray, to_level(brush, at), brush.place.direction(own))) {
            const Vec3 p = brush.place.to_own(*place) / brush.cells.cell_m;
            drag_->to = drag_->from;
            drag_->to.square = {int(std::floor(p[(drag_->from.axis + 1) % 3])),
                                int(std::floor(p[(drag_->from.axis + 2) % 3]))};
            constexpr int k_most_squares = 512; // along one side of an area
            for (size_t i = 0; i < 2; ++i)
                drag_->to.square[i] = std::clamp(drag_->to.square[i], drag_->from.square[i] - k_most_squares,
                                                 drag_->from.square[i] + k_most_squares);
        }
        return;
    }
    const Brush& brush = *mass();
    const Vec3 way = brush.place.direction(axis_of(*area()));
    const double metres = nearest_along(pointer.ray, drag_->anchor, way) - drag_->first;
    drag_->steps = int(std::lround(metres / brush.cells.cell_m));
    show_drag();
}

edit::Massed MassTool::dragged() const {
    return drag_->grip == Grip::tilt ? edit::tilted(drag_->cells, drag_->area, drag_->edge, drag_->steps)
                                     : edit::raised(drag_->cells, drag_->area, drag_->steps);
}

void MassTool::show_drag() {
    const Level& level = session_.stored_level();
    if (begun_) {
        const auto begun = begun_item(drag_->steps);
        begun ? session_.preview(edit::with_item(level, session_.layer(), begun->first))
              : session_.drop_preview();
    } else if (const auto change = dragged(); change.done && !change.grid.empty()) {
        session_.preview(with_cells(level, session_.selection()[0], change.grid));
    } else {
        session_.drop_preview();
    }
}

void MassTool::mark(const Drag& drag) {
    edit::MassArea marked = area_of(drag.from, drag.to);
    if (drag.from.item.empty()) {
        session_.select({});
        begun_ = Begun{drag.from.mass, marked};
        return;
    }
    const edit::MassArea before = drag.adds && session_.area() ? *session_.area() : edit::MassArea{};
    begun_.reset();
    session_.select({drag.from.item});
    if (drag.alike)
        marked = edit::area_alike(drag.from.mass.cells, drag.from.axis, drag.from.way, drag.from.square,
                                  drag.from.line);
    session_.selected_items().mark(drag.adds && !before.levels.empty() ? edit::joined(before, marked)
                                                                       : marked);
}

void MassTool::release(const Pointer& pointer) {
    if (!drag_) return;
    move(pointer);
    confirm();
}

void MassTool::confirm() {
    if (!drag_) return;
    const Drag drag = *drag_;
    if (drag.grip == Grip::mark) {
        drag_.reset();
        return mark(drag);
    }
    session_.drop_preview();
    if (!begun_) session_.selected_items().mark(drag.area); // as it was before the drag was seen
    drag_.reset();
    Handle handle;
    handle.grip = drag.grip, handle.edge = drag.edge;
    const Brush* brush = mass();
    if (brush) apply(handle, grid_steps(*brush, drag.steps));
}

/// By so many steps outward as one sees it.
void MassTool::apply(const Handle& handle, int steps) {
    if (steps == 0) return;
    if (begun_) return begin_mass(steps);
    handle.grip == Grip::tilt ? tilt_area(session_, handle.edge, steps) : raise_area(session_, steps);
}

bool MassTool::raise(int by) {
    if (!area() || drag_) return false;
    apply({}, by);
    return true;
}

/// Raised from the ground it is a new mass of matter, sunk into it one that is cut out.
std::optional<std::pair<Item, edit::MassArea>> MassTool::begun_item(int by) const {
    if (by == 0) return {};
    Begun begun = *begun_;
    begun.mass.effect = by > 0 ? Effect::fill : Effect::cut;
    if (by < 0) begun.area.way = -1;
    const edit::Massed made = edit::raised(begun.mass.cells, begun.area, std::abs(by));
    if (!made.done) return {};
    begun.mass.cells = made.grid;
    return std::pair(Item{edit::fresh_id(session_.stored_level(), "m"), {}, false, measured(begun.mass), {}},
                     made.area);
}

void MassTool::begin_mass(int by) {
    const auto begun = begun_item(by);
    if (!begun) return;
    begun_.reset();
    session_.apply(edit::with_item(session_.stored_level(), session_.layer(), begun->first),
                   by > 0 ? tr("Begin a mass") : tr("Dig into the ground"));
    session_.select({begun->first.id});
    session_.selected_items().mark(begun->second);
}

bool MassTool::wheel(const Pointer& pointer, int steps) {
    if (drag_ || !area()) return false;
    if (const auto handle = handle_near(pointer)) {
        apply(*handle, steps);
        return true;
    }
    const auto under = spot(pointer);
    const bool on_area =
        under && area()->axis == under->axis && area()->levels.count(under->square) &&
        (begun_ ? under->item.empty() : session_.selected() && session_.selected()->id == under->item);
    if (!on_area) return false;
    apply({}, steps);
    return true;
}

void MassTool::typed(const QString& text) {
    if (!drag_ || drag_->grip == Grip::mark) return;
    const auto metres = parse_metres(text);
    if (!metres) return;
    drag_->steps = grid_steps(*mass(), int(std::lround(*metres / mass()->cells.cell_m)));
    show_drag();
}

bool MassTool::escape() {
    if (drag_) {
        drag_.reset();
        session_.drop_preview();
        return true;
    }
    if (begun_) {
        begun_.reset();
        return true;
    }
    if (session_.area()) {
        session_.selected_items().mark({});
        return true;
    }
    if (session_.selection().empty()) return false;
    session_.select({});
    return true;
}

QString MassTool::hint() const {
    if (drag_ && drag_->grip == Grip::mark) return tr("Drag over the cells of the area");
    if (drag_) return tr("In whole cells. Type a height to set it exactly, Escape cancels");
    if (begun_) return tr("Wheel over it, arrow or + raises a mass here, - digs into the ground");
    if (session_.area())
        return tr("Wheel, arrow, + and - raise and sink it; marks on sides and corners slope it; Shift adds");
    return tr("Drag an area on a mass, or on level ground to begin one; Ctrl takes all of a level or slope");
}

void MassTool::paint_area(QPainter& painter, const Camera& camera, const Brush& brush,
                          const edit::MassArea& area, bool filled) const {
    constexpr size_t k_most_drawn = 4096;
    std::map<std::array<int, 2>, std::array<Vec3, 4>> surfaces;
    for (const auto& [square, line] : area.levels) {
        if (surfaces.size() >= k_most_drawn) break;
        const auto corners = edit::surface_corners(brush.cells, area, square);
        std::array<Vec3, 4>& places = surfaces[square];
        static constexpr size_t round[] = {0, 1, 3, 2};
        for (size_t i = 0; i < 4; ++i) places[i] = to_level(brush, corners[round[i]]);
    }
    if (filled) {
        QColor wash = color::accent;
        wash.setAlphaF(0.22f);
        painter.setPen(Qt::NoPen);
        painter.setBrush(wash);
        for (const auto& [square, places] : surfaces) {
            QPolygonF polygon;
            for (const Vec3& place : places)
                if (const auto at = camera.to_screen(place)) polygon << *at;
            if (polygon.size() == 4) painter.drawPolygon(polygon);
        }
        painter.setBrush(Qt::NoBrush);
    }
    // Only the area's own rim, and where it has a riser.
    painter.setPen(QPen(color::accent, filled ? 2 : 1.4));
    static constexpr std::array<std::array<int, 2>, 4> beside{{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}};
    const auto has = [](const std::array<Vec3, 4>& places, const Vec3& p) {
        return std::any_of(places.begin(), places.end(),
                           [&](const Vec3& q) { return glm::length(p - q) < 1e-6; });
    };
    for (const auto& [square, places] : surfaces)
        for (size_t i = 0; i < 4; ++i) {
            const Vec3 &from = places[i], &to = places[(i + 1) % 4];
            const auto next = surfaces.find({square[0] + beside[i][0], square[1] + beside[i][1]});
            if (next == surfaces.end() || !has(next->second, from) || !has(next->second, to))
                draw_line(painter, camera, from, to);
        }
}

void MassTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    if (const Item* item = session_.selected();
        item && item->brush() && item->brush()->shape == Shape::mass) {
        painter.setPen(QPen(color::accent, 1, Qt::DotLine));
        draw_outline(painter, camera, *item->brush());
    }
    if (drag_ && drag_->grip == Grip::mark) {
        if (drag_->adds && session_.area()) paint_area(painter, camera, *mass(), *session_.area(), true);
        const auto area = area_of(drag_->from, drag_->to);
        paint_area(painter, camera, drag_->from.mass, area, true);
        const auto bounds = edit::bounds_of(area);
        const double cell = drag_->from.mass.cells.cell_m;
        if (!area.levels.empty()) {
            const auto corners = edit::surface_corners(drag_->from.mass.cells, area, drag_->to.square);
            if (const auto at = camera.to_screen(to_level(drag_->from.mass, corners[0])))
                Labels(painter).put(*at - QPointF(0, 22),
                                    QStringLiteral("%1 × %2").arg(metres_text(bounds.width(0) * cell),
                                                                  metres_text(bounds.width(1) * cell)),
                                    color::accent, true);
        }
        return;
    }
    const edit::MassArea* marked = area();
    const Brush* brush = mass();
    if (!marked || !brush) {
        if (hover_) paint_area(painter, camera, hover_->mass, area_of(*hover_, *hover_), false);
        return;
    }
    paint_area(painter, camera, *brush, *marked, true);
    if (hover_ && !drag_) paint_area(painter, camera, hover_->mass, area_of(*hover_, *hover_), false);
    for (const Handle& handle : handles(camera)) {
        const bool hot = hot_ && hot_->grip == handle.grip && hot_->edge == handle.edge;
        painter.setPen(QPen(color::accent, hot ? 2.4 : 1.6));
        painter.setBrush(hot ? color::accent : QColor(Qt::white));
        if (handle.grip == Grip::raise) {
            painter.drawPolygon(
                QPolygonF{handle.at + QPointF(0, -8), handle.at + QPointF(6, 3), handle.at + QPointF(-6, 3)});
            painter.drawLine(handle.at + QPointF(0, 3), handle.at + QPointF(0, 9));
        } else if (handle.edge.u != 0 && handle.edge.v != 0) {
            painter.drawPolygon(QPolygonF{handle.at + QPointF(0, -5), handle.at + QPointF(5, 0),
                                          handle.at + QPointF(0, 5), handle.at + QPointF(-5, 0)});
        } else {
            painter.drawRoundedRect(QRectF(handle.at.x() - 7, handle.at.y() - 3, 14, 6), 3, 3);
        }
        painter.setBrush(Qt::NoBrush);
    }
    if (!drag_ || drag_->steps == 0) return;
    const int seen = grid_steps(*brush, drag_->steps);
    QString text = (seen > 0 ? QStringLiteral("+") : QStringLiteral("−")) +
                   metres_text(std::abs(seen) * brush->cells.cell_m);
    if (const QString slope = begun_ ? QString() : slope_text(session_, *brush, *marked); !slope.isEmpty())
        text += QStringLiteral(" · ") + slope;
    if (const auto at = camera.to_screen(drag_->anchor))
        Labels(painter).put(*at - QPointF(0, 34), text, color::accent, true);
}

} // namespace rubble::app
