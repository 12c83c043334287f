#include "tools/body_grips.h"

#include <cmath>

#include "commands/reshaping.h"
#include "edit/body.h"
#include "edit/brushes.h"
#include "level/brush_shape.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_point_px = 10, k_edge_px = 7, k_arrow_px = 11, k_arrow_length_px = 46;
constexpr double k_grips_room_px = 60;
/// Points of a body are placed on whole tenths of a millimetre.
constexpr double k_finest_m = 1e-4;

Vec3 eye_way(const Camera& camera, const Vec3& at) {
    return camera.flat() ? camera.forward() : glm::normalize(at - camera.eye());
}

/// Which points belong to a face that looks to the eye.
std::vector<bool> seen_points(const Brush& body, const Camera& camera) {
    std::vector<bool> seen(body.corners.size());
    for (const auto& loop : body.faces) {
        const Vec3 normal = body.place.direction(normal_of(body.corners, loop));
        const Vec3 at = body.place.to_level(body.corners[size_t(loop[0])]);
        if (glm::dot(normal, eye_way(camera, at)) < 0)
            for (const int p : loop) seen[size_t(p)] = true;
    }
    return seen;
}

/// The edge of a face nearest to a place on it.
edit::MeshEdge nearest_edge(const FaceMesh& mesh, int face, const Vec3& at) {
    const auto& loop = mesh.faces[size_t(face)];
    edit::MeshEdge best{loop[0], loop[1]};
    double least = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < loop.size(); ++i) {
        const int a = loop[i], b = loop[(i + 1) % loop.size()];
        const Vec3 from = mesh.points[size_t(a)], way = mesh.points[size_t(b)] - from;
        const double part = std::clamp(glm::dot(at - from, way) / glm::dot(way, way), 0.0, 1.0);
        if (const double far = glm::length(from + way * part - at); far < least) least = far, best = {a, b};
    }
    return best;
}

QColor axis_color(int axis) {
    return axis == 0 ? color::plum : axis == 1 ? color::sea_green : color::blue_grey;
}

} // namespace

bool BodyGrips::is_on() const { return session_.stage() == Stage::block_out && session_.body(); }

std::vector<std::pair<int, QLineF>> BodyGrips::arrows(const Camera& camera) const {
    std::vector<std::pair<int, QLineF>> out;
    const auto places = picked_places(session_);
    if (places.empty()) return out;
    Vec3 middle(0);
    for (const Vec3& p : places) middle += p / double(places.size());
    const auto from = camera.to_screen(middle);
    if (!from) return out;
    const double length = k_arrow_length_px * camera.metres_per_pixel(middle);
    for (int axis = 0; axis < 3; ++axis) {
        Vec3 way(0);
        way[axis] = length;
        const auto to = camera.to_screen(middle + way);
        if (to && distance(*from, *to) > 10) out.emplace_back(axis, QLineF(*from, *to));
    }
    return out;
}

std::optional<BodyGrips::Caught> BodyGrips::arrow_at(QPointF screen, const Camera& camera) const {
    for (const auto& [axis, line] : arrows(camera))
        if (distance(line.p2(), screen) < k_arrow_px) {
            Vec3 middle(0);
            const auto places = picked_places(session_);
            for (const Vec3& p : places) middle += p / double(places.size());
            return Caught{Caught::Kind::arrow, axis, {0, 0}, middle};
        }
    return {};
}

std::optional<BodyGrips::Caught> BodyGrips::caught_at(const Pointer& pointer) const {
    if (!is_on()) return {};
    if (auto arrow = arrow_at(pointer.screen, pointer.camera)) return arrow;
    const Brush& body = *session_.body();
    const double pixel = pointer.camera.metres_per_pixel(body.place.to_level(own_box(body).middle()));
    if (glm::length(body.size) / pixel < k_grips_room_px) return {};
    const auto seen = seen_points(body, pointer.camera);
    std::vector<std::optional<QPointF>> screen;
    for (const Vec3& p : body.corners) screen.push_back(pointer.camera.to_screen(body.place.to_level(p)));
    std::optional<Caught> best;
    // What is seen comes first, points before edges.
    double least = k_point_px;
    for (int p = 0; p < int(screen.size()); ++p) {
        if (!screen[size_t(p)]) continue;
        const double far =
            distance(*screen[size_t(p)], pointer.screen) + (seen[size_t(p)] ? 0 : k_point_px / 2);
        if (far >= least) continue;
        least = far;
        best = Caught{Caught::Kind::point,
                      p,
                      {p, p},
                      body.place.to_level(body.corners[size_t(p)]),
                      bool(seen[size_t(p)])};
    }
    if (best) return best;
    least = k_edge_px;
    for (const auto& loop : body.faces)
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            if (a > b || !screen[size_t(a)] || !screen[size_t(b)]) continue;
            double along;
            const bool visible = seen[size_t(a)] && seen[size_t(b)];
            const double far =
                distance(QLineF(*screen[size_t(a)], *screen[size_t(b)]), pointer.screen, along) +
                (visible ? 0 : k_edge_px / 2);
            if (far >= least) continue;
            least = far;
            const Vec3 from = body.corners[size_t(a)], to = body.corners[size_t(b)];
            best = Caught{Caught::Kind::edge, a, {a, b}, body.place.to_level((from + to) * 0.5), visible};
        }
    return best;
}

std::optional<BodyGrips::Caught> BodyGrips::face_at(const Pointer& pointer) const {
    const auto& solid = session_.built().solid;
    if (!is_on() || !pointer.hit || !solid || size_t(pointer.hit->brush) >= solid->brushes.size() ||
        solid->brushes[size_t(pointer.hit->brush)]->item != session_.selected()->id)
        return {};
    const Brush& body = *session_.body();
    const Vec3 at = body.place.to_own(pointer.hit->at);
    for (int f = 0; f < int(body.faces.size()); ++f) {
        const auto& loop = body.faces[size_t(f)];
        const double off = glm::dot(at - middle_of(body.corners, loop), normal_of(body.corners, loop));
        if (std::abs(off) < 1e-3 && holds(body.corners, loop, at))
            return Caught{Caught::Kind::face, f, {0, 0}, pointer.hit->at};
    }
    return {};
}

bool BodyGrips::is_picked(const Caught& caught) const {
    const Picks& picks = session_.picks();
    return caught.kind == Caught::Kind::point  ? picks.points.contains(caught.number)
           : caught.kind == Caught::Kind::edge ? picks.edges.contains(caught.edge)
                                               : picks.faces.contains(caught.number);
}

void BodyGrips::pick(const Caught& caught, bool adds) {
    Picks picks = adds ? session_.picks() : Picks{};
    auto toggle = [&](auto& set, const auto& one) {
        if (!set.insert(one).second) set.erase(one);
    };
    if (caught.kind == Caught::Kind::point) toggle(picks.points, caught.number);
    if (caught.kind == Caught::Kind::edge) toggle(picks.edges, caught.edge);
    if (caught.kind == Caught::Kind::face) toggle(picks.faces, caught.number);
    session_.pick(picks);
}

bool BodyGrips::press(const Pointer& pointer) {
    auto caught = caught_at(pointer);
    // A picked face goes before what lies behind it.
    if (const auto face = face_at(pointer); face && is_picked(*face) && (!caught || !caught->seen))
        caught = face;
    if (!caught) return false;
    const bool adds = pointer.keys & Qt::ShiftModifier;
    Drag drag;
    drag.caught = *caught;
    drag.adds = adds;
    drag.was_picked = caught->kind != Caught::Kind::arrow && is_picked(*caught);
    if (caught->kind != Caught::Kind::arrow && !drag.was_picked) pick(*caught, adds);
    drag.before = session_.stored_level();
    drag.id = session_.selected()->id;
    drag.body = *session_.body();
    drag.picks = session_.picks();
    drag.begin = pointer.screen;
    if (caught->kind == Caught::Kind::arrow) {
        drag.axis[caught->number] = 1;
    } else if (caught->kind == Caught::Kind::face) {
        drag.axis =
            drag.body.place.direction(normal_of(drag.body.corners, drag.body.faces[size_t(caught->number)]));
        drag.pushes = pointer.keys & Qt::ControlModifier;
    } else {
        // Seen from low down the ground would run away under the pointer.
        const Vec3 look = pointer.camera.forward();
        drag.normal = pointer.camera.flat()                 ? look
                      : std::abs(look.z) > 0.25             ? Vec3(0, 0, 1)
                      : std::abs(look.x) > std::abs(look.y) ? Vec3(1, 0, 0)
                                                            : Vec3(0, 1, 0);
    }
    drag.first = glm::length(drag.axis) > 0 ? nearest_along(pointer.ray, caught->place, drag.axis) : 0;
    drag_ = std::move(drag);
    return true;
}

bool BodyGrips::click(const Pointer& pointer) {
    const auto face = face_at(pointer);
    if (face) pick(*face, pointer.keys & Qt::ShiftModifier);
    return face.has_value();
}

bool BodyGrips::pick_row(const Pointer& pointer) {
    if (!is_on() || session_.picks().empty()) return false;
    const FaceMesh mesh = edit::mesh_of(*session_.body());
    const bool adds = pointer.keys & Qt::ShiftModifier;
    Picks picks = adds ? session_.picks() : Picks{};
    const auto caught = caught_at(pointer);
    if (caught && caught->kind == Caught::Kind::edge) {
        picks.edges.merge(edit::ring_of(mesh, caught->edge));
    } else if (const auto face = face_at(pointer); face && (!caught || !caught->seen)) {
        const Vec3 at = session_.body()->place.to_own(pointer.hit->at);
        picks.faces.merge(edit::face_row(mesh, face->number, nearest_edge(mesh, face->number, at)));
    } else {
        return false;
    }
    session_.pick(picks);
    return true;
}

void BodyGrips::hover(const Pointer& pointer) {
    hover_ = caught_at(pointer);
    if (!hover_ && !session_.picks().empty()) hover_ = face_at(pointer);
}

/// The distance to move, put onto the grid, or onto a corner, an edge or a face of another brush.
Vec3 BodyGrips::snapped_by(const Pointer& pointer, const Vec3& raw) {
    drag_->onto.reset();
    if (!pointer.snaps()) return raw;
    const bool free = glm::length(drag_->axis) == 0;
    const Vec3& place = drag_->caught.place;
    const double grid = snap_grid(session_, pointer), near = snap_catch(session_, pointer, place + raw);
    if (const auto corner = caught_corner(session_, pointer, drag_->id))
        drag_->onto = corner->at;
    else if (const auto edge = caught_edge(session_, pointer, drag_->id, drag_->axis);
             edge && (free || std::abs(glm::dot(*edge - place - raw, drag_->axis)) < near))
        // Along an axis the pointer crosses edges that lie anywhere behind it: only what is near is meant.
        drag_->onto = edge;
    if (drag_->onto) {
        const Vec3 to = *drag_->onto - place;
        return free ? to : drag_->axis * glm::dot(to, drag_->axis);
    }
    // The place itself comes onto the grid, or beside another brush; of an arrow, whose place is a middle,
    // and of what is no point the distance does.
    const auto along = [&](int axis, bool by_place) {
        if (!by_place) return edit::snapped(raw[axis], grid);
        return snap_along(session_.level(), {drag_->id}, place + raw, axis, place[axis] + raw[axis], grid,
                          near) -
               place[axis];
    };
    if (!free) {
        const double length = glm::dot(raw, drag_->axis);
        if (const auto to = way_to_face(session_, pointer, place, drag_->axis, drag_->id);
            to && std::abs(*to - length) < near) {
            drag_->onto = place + drag_->axis * *to;
            return drag_->axis * *to;
        }
        const int axis = std::abs(drag_->axis.x) > 0.999   ? 0
                         : std::abs(drag_->axis.y) > 0.999 ? 1
                         : std::abs(drag_->axis.z) > 0.999 ? 2
                                                           : -1;
        if (axis < 0) return drag_->axis * edit::snapped(length, grid);
        Vec3 by(0);
        by[axis] = along(axis, drag_->caught.kind != Caught::Kind::arrow);
        return by;
    }
    Vec3 by = raw;
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(raw[axis]) >= 1e-9) by[axis] = along(axis, drag_->caught.kind == Caught::Kind::point);
    return by;
}

void BodyGrips::move(const Pointer& pointer) {
    if (!drag_->moved && distance(drag_->begin, pointer.screen) < k_drag_px) return;
    drag_->moved = true;
    Vec3 raw(0);
    if (glm::length(drag_->axis) > 0)
        raw = drag_->axis * (nearest_along(pointer.ray, drag_->caught.place, drag_->axis) - drag_->first);
    else if (const auto at = meet_plane(pointer.ray, drag_->caught.place, drag_->normal))
        raw = *at - drag_->caught.place;
    drag_->by = snapped_by(pointer, raw);
    show();
}

void BodyGrips::show() {
    const FaceMesh mesh = edit::mesh_of(drag_->body);
    Vec3 own = drag_->body.place.to_own(drag_->body.place.at + drag_->by);
    own = glm::round(own / k_finest_m) * k_finest_m;
    if (drag_->pushes && drag_->picks.faces.size() == 1) {
        const double by = glm::dot(drag_->by, drag_->axis);
        drag_->result = edit::face_pushed(mesh, *drag_->picks.faces.begin(), by);
    } else {
        drag_->result = edit::points_moved(mesh, drag_->picks.all_points(mesh), own);
        if (drag_->result.mesh.points.size() == mesh.points.size()) {
            drag_->result.points = drag_->picks.points, drag_->result.edges = drag_->picks.edges;
            drag_->result.faces = drag_->picks.faces;
        }
    }
    session_.preview(with_reshaped(drag_->before, drag_->id, drag_->result));
    session_.pick({drag_->result.points, drag_->result.edges, drag_->result.faces});
}

void BodyGrips::typed(double value_m) {
    if (!drag_ || !drag_->moved) return;
    const double length = glm::length(drag_->by);
    if (length > 1e-9)
        drag_->by *= value_m / length;
    else if (glm::length(drag_->axis) > 0)
        drag_->by = drag_->axis * value_m;
    show();
}

void BodyGrips::release(const Pointer& pointer) {
    if (drag_->moved) move(pointer);
    confirm();
}

void BodyGrips::confirm() {
    const Drag drag = std::move(*drag_);
    drag_.reset();
    if (!drag.moved) {
        // A click on what was picked already leaves that alone, or lets it go.
        if (drag.was_picked) pick(drag.caught, drag.adds);
        return;
    }
    session_.apply(with_reshaped(drag.before, drag.id, drag.result),
                   drag.pushes ? tr("Push the face") : tr("Reshape"));
    session_.pick({drag.result.points, drag.result.edges, drag.result.faces});
    tell_limit(session_, drag.result);
}

bool BodyGrips::escape() {
    if (drag_) {
        const Picks picks = drag_->picks;
        drag_.reset();
        session_.drop_preview();
        session_.pick(picks);
        return true;
    }
    if (session_.picks().empty()) return false;
    session_.pick({});
    return true;
}

std::set<int> BodyGrips::points_within(const QRectF& frame, const Camera& camera) const {
    std::set<int> out;
    if (!is_on()) return out;
    const Brush& body = *session_.body();
    for (int p = 0; p < int(body.corners.size()); ++p)
        if (const auto at = camera.to_screen(body.place.to_level(body.corners[size_t(p)]));
            at && frame.contains(*at))
            out.insert(p);
    return out;
}

void BodyGrips::paint(QPainter& painter, const Camera& camera) {
    if (!is_on()) return;
    const Brush& body = *session_.body();
    auto place = [&](int p) { return body.place.to_level(body.corners[size_t(p)]); };
    const Picks& picks = session_.picks();
    auto fill_face = [&](int f, Qt::BrushStyle style) {
        QPolygonF polygon;
        for (const int p : body.faces[size_t(f)])
            if (const auto at = camera.to_screen(place(p))) polygon << *at;
        painter.setBrush(QBrush(color::accent, style));
        painter.drawPolygon(polygon);
        painter.setBrush(Qt::NoBrush);
    };
    painter.setPen(Qt::NoPen);
    for (const int f : picks.faces) fill_face(f, Qt::Dense5Pattern);
    painter.setPen(QPen(color::accent, 4));
    for (const edit::MeshEdge& edge : picks.edges) draw_line(painter, camera, place(edge.a), place(edge.b));
    // Small squares for points: dots stretch.
    const double pixel = camera.metres_per_pixel(body.place.to_level(own_box(body).middle()));
    const auto seen = seen_points(body, camera);
    if (glm::length(body.size) / pixel >= k_grips_room_px) {
        for (int p = 0; p < int(body.corners.size()); ++p) {
            const auto at = camera.to_screen(place(p));
            if (!at) continue;
            const bool picked = picks.points.contains(p);
            painter.setPen(QPen(color::accent, 1.4));
            painter.setBrush(picked ? color::accent : QColor(Qt::white));
            painter.setOpacity(seen[size_t(p)] || picked ? 1 : 0.45);
            const double r = picked ? 4 : seen[size_t(p)] ? 2.5 : 2;
            painter.drawRect(QRectF(at->x() - r, at->y() - r, 2 * r, 2 * r));
            painter.setOpacity(1);
        }
    }
    painter.setBrush(Qt::NoBrush);
    if (hover_ && !drag_) {
        painter.setPen(QPen(color::accent, 2));
        if (hover_->kind == Caught::Kind::point && hover_->number < int(body.corners.size())) {
            if (const auto at = camera.to_screen(place(hover_->number)))
                painter.drawRect(QRectF(at->x() - 6, at->y() - 6, 12, 12));
        } else if (hover_->kind == Caught::Kind::edge && hover_->edge.b < int(body.corners.size())) {
            painter.setPen(QPen(color::accent, 3, Qt::DotLine));
            draw_line(painter, camera, place(hover_->edge.a), place(hover_->edge.b));
        } else if (hover_->kind == Caught::Kind::face && hover_->number < int(body.faces.size())) {
            painter.setPen(QPen(color::accent, 1.5, Qt::DotLine));
            fill_face(hover_->number, Qt::NoBrush);
        }
    }
    for (const auto& [axis, line] : arrows(camera)) {
        const bool hot = hover_ && hover_->kind == Caught::Kind::arrow && hover_->number == axis;
        painter.setPen(QPen(axis_color(axis), hot ? 3 : 2));
        painter.drawLine(line);
        painter.setBrush(axis_color(axis));
        const QPointF way = (line.p2() - line.p1()) / std::max(line.length(), 1.0), across(-way.y(), way.x());
        painter.drawPolygon(QPolygonF{line.p2() + way * 7, line.p2() + across * 5, line.p2() - across * 5});
        painter.setBrush(Qt::NoBrush);
        // Told apart by more than colour.
        painter.setPen(axis_color(axis));
        painter.drawText(line.p2() + way * 16 + QPointF(-4, 5), QString(QChar('x' + axis)));
    }
    if (!drag_ || !drag_->moved) return;
    if (drag_->onto)
        if (const auto at = camera.to_screen(*drag_->onto)) {
            painter.setPen(QPen(color::sea_green, 2));
            painter.drawEllipse(*at, 8, 8);
        }
    const auto at = camera.to_screen(drag_->caught.place + drag_->by);
    if (!at) return;
    Labels labels(painter);
    QString text = metres_text(glm::length(drag_->by) * drag_->result.part);
    if (drag_->caught.kind == Caught::Kind::point) {
        const Vec3 to = drag_->caught.place + drag_->by * drag_->result.part;
        text += tr("  to %1, %2, %3").arg(plain_number(to.x), plain_number(to.y), plain_number(to.z));
    }
    if (drag_->result.part < 1) text += tr("  limit");
    labels.put(*at - QPointF(0, 30), text, color::accent, true);
}

QString BodyGrips::hint() const {
    if (drag_ && drag_->moved)
        return tr("Type a number to set it exactly. Alt ignores the grid, Escape cancels");
    if (hover_ && hover_->kind == Caught::Kind::face && session_.picks().faces.contains(hover_->number))
        return tr("Drag to move the face, Ctrl+drag to push it into new matter or a pocket");
    if (!session_.picks().empty())
        return tr(
            "Drag what is picked, or an arrow. Shift+click picks more, a double click the whole ring or row");
    return {};
}

} // namespace rubble::app
