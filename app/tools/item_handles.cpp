#include "tools/item_handles.h"

#include <algorithm>
#include <cmath>

#include "edit/brushes.h"
#include "level/brush_shape.h"
#include "level/dressing/light.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_room_px = 60;
constexpr size_t k_most_with_handles = 500; // their box is looked for with every frame

QColor axis_ink(const Vec3& axis) {
    return axis.z != 0 ? color::accent : axis.x != 0 ? color::plum : color::sea_green;
}

Box3 box_around(const Brush& brush) {
    const Box3 own = own_box(brush);
    Box3 out;
    for (int i = 0; i < 8; ++i)
        out.add(brush.place.to_level({i & 1 ? own.high.x : own.low.x, i & 2 ? own.high.y : own.low.y,
                                      i & 4 ? own.high.z : own.low.z}));
    return out;
}

Vec3 middle_of_side(const Box3& box, BoxSide side) {
    Vec3 out = box.middle();
    const int axis = int(side) / 2;
    out[axis] = int(side) % 2 == 0 ? box.low[axis] : box.high[axis];
    return out;
}

/// The rings: about the view's own axis where it is flat, else about the vertical, and beside the arrow about
/// the two level axes.
void add_rings(std::vector<ItemHandle>& out, const Camera& camera, const Vec3& beside, const Vec3& above,
               double pixel, bool tilts) {
    const auto add = [&](const Vec3& place, const Vec3& axis) {
        if (const auto at = camera.to_screen(place))
            out.push_back({Grip::turn, BoxSide::right, *at, place, axis});
    };
    if (camera.flat()) {
        const Vec3 look = glm::abs(camera.forward());
        const Vec3 axis = look.z > 0.5 ? Vec3(0, 0, 1) : look.y > 0.5 ? Vec3(0, 1, 0) : Vec3(1, 0, 0);
        if (tilts || axis.z > 0.5) add(beside, axis);
        return;
    }
    add(beside, {0, 0, 1});
    if (!tilts) return;
    constexpr double k_apart_px = 34;
    add(above + Vec3(k_apart_px * pixel, 0, 0), {0, 1, 0});
    add(above - Vec3(k_apart_px * pixel, 0, 0), {1, 0, 0});
}

constexpr double k_raise_px = 44, k_ring_px = 34;

/// Of several items, a group or an element: they are raised, turned and sized together.
std::vector<ItemHandle> box_handles(const Box3& box, const Camera& camera, bool sized) {
    std::vector<ItemHandle> out;
    const Vec3 middle = box.middle();
    const double pixel = camera.metres_per_pixel(middle);
    const auto add = [&](Grip grip, BoxSide side, const Vec3& place) {
        if (const auto at = camera.to_screen(place)) out.push_back({grip, side, *at, place});
    };
    const bool has_room = glm::length(box.high - box.low) / pixel >= k_room_px;
    for (int i = 0; i < box_sides && sized && has_room; ++i) {
        Vec3 way(0);
        way[i / 2] = 1;
        if (camera.flat() && std::abs(glm::dot(way, camera.forward())) > 0.99) continue;
        if (BoxSide(i) != BoxSide::bottom) add(Grip::size, BoxSide(i), middle_of_side(box, BoxSide(i)));
    }
    const Vec3 above(middle.x, middle.y, box.high.z + k_raise_px * pixel);
    if (camera.kind == Camera::Kind::free) add(Grip::raise, BoxSide::top, above);
    const Vec3 beside = camera.kind == Camera::Kind::right
                            ? Vec3(middle.x, box.high.y + k_ring_px * pixel, middle.z)
                            : Vec3(box.high.x + k_ring_px * pixel, middle.y, middle.z);
    add_rings(out, camera, beside, above, pixel, sized);
    return out;
}

std::vector<ItemHandle> brush_handles(const Brush& brush, const Camera& camera) {
    std::vector<ItemHandle> out;
    // On something that is small on the screen the handles would lie on each other and hide it.
    const double pixel = camera.metres_per_pixel(brush.place.at);
    if (glm::length(brush.size) / pixel < k_room_px) return out;
    auto add = [&](Grip grip, BoxSide side, const Vec3& place) {
        if (const auto at = camera.to_screen(place)) out.push_back({grip, side, *at, place});
    };
    for (int i = 0; i < box_sides && brush.shape != Shape::mass; ++i) {
        const BoxSide side = BoxSide(i);
        // Seen flat, the side in front and the one behind would lie on each other.
        if (camera.flat() && std::abs(glm::dot(edit::outward(brush, side), camera.forward())) > 0.99)
            continue;
        add(Grip::side, side, edit::middle_of(brush, side));
    }
    const Box3 box = box_around(brush);
    const bool upright = !brush.place.rotation;
    const Vec3 above = upright ? edit::middle_of(brush, BoxSide::top) + Vec3(0, 0, k_raise_px * pixel)
                               : Vec3(box.middle().x, box.middle().y, box.high.z + k_raise_px * pixel);
    if (camera.kind == Camera::Kind::free) add(Grip::raise, BoxSide::top, above);
    Vec3 beside =
        edit::middle_of(brush, BoxSide::right) + edit::outward(brush, BoxSide::right) * (k_ring_px * pixel);
    if (camera.flat() && camera.kind != Camera::Kind::above) {
        beside = box.middle();
        const int axis = camera.kind == Camera::Kind::right ? 1 : 0;
        beside[axis] = box.high[axis] + k_ring_px * pixel;
    } else if (!upright) {
        beside = {box.high.x + k_ring_px * pixel, box.middle().y, box.middle().z};
    }
    add_rings(out, camera, beside, above, pixel, brush.host.empty());
    return out;
}

} // namespace

Box3 selection_box(const Session& session) {
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id)) box.add(box_of(*item));
    return box;
}

Vec3 opposite(const Box3& box, BoxSide side) { return middle_of_side(box, BoxSide(int(side) ^ 1)); }

std::vector<ItemHandle> handles_of(const Session& session, const Camera& camera) {
    const size_t count = session.selection().size();
    if (count == 0 || count > k_most_with_handles) return {};
    if (!session.picks().empty()) return {};
    const auto any = [&](auto which) {
        return std::any_of(session.selection().begin(), session.selection().end(), [&](const ItemId& id) {
            const Item* one = find_item(session.level(), id);
            return one && which(*one);
        });
    };
    if (session.stage() == Stage::dress && any([](const Item& one) { return !belongs_to_dressing(one); }))
        return {};
    const Item* item = session.selected();
    if (item && item->brush()) return brush_handles(*item->brush(), camera);
    const Box3 box = selection_box(session);
    if (box.empty()) return {};
    // Pieces and assemblies are as large as they were made.
    const bool sized = any([](const Item& one) {
        return !one.element() && (!one.piece() || is_prop(*one.piece())) && !one.assembly();
    });
    return box_handles(box, camera, sized);
}

void draw_handle(QPainter& painter, const Session& session, const Camera& camera, const ItemHandle& handle,
                 bool hot) {
    painter.setPen(QPen(color::accent, hot ? 2.5 : 1.6));
    painter.setBrush(hot ? color::accent : QColor(Qt::white));
    if (handle.grip == Grip::side) {
        // Those of sides that look away can be caught through the brush; they are drawn less.
        const Brush& brush = *session.selected()->brush();
        const Vec3 look = camera.flat() ? camera.forward() : handle.place - camera.eye();
        const bool seen = glm::dot(edit::outward(brush, handle.side), look) < 1e-6;
        painter.setOpacity(seen || hot ? 1 : 0.55);
        const double radius = seen || hot ? 4.5 : 3;
        painter.drawEllipse(handle.at, radius, radius);
        painter.setOpacity(1);
    }
    if (handle.grip == Grip::size) {
        const double radius = 4;
        painter.drawRect(QRectF(handle.at.x() - radius, handle.at.y() - radius, 2 * radius, 2 * radius));
    }
    if (handle.grip == Grip::turn) {
        painter.setPen(QPen(axis_ink(handle.axis), hot ? 2.5 : 1.6));
        painter.setBrush(Qt::NoBrush);
        painter.drawArc(QRectF(handle.at.x() - 8, handle.at.y() - 8, 16, 16), 40 * 16, 280 * 16);
        // Tilts are told apart by more than colour.
        if (handle.axis.z == 0 && session.level().frame == Frame::space)
            painter.drawText(handle.at + QPointF(-3, 4),
                             handle.axis.x != 0 ? QStringLiteral("x") : QStringLiteral("y"));
    }
    if (handle.grip == Grip::raise)
        painter.drawPolygon(
            QPolygonF{handle.at + QPointF(0, -8), handle.at + QPointF(5, 3), handle.at + QPointF(-5, 3)});
}

} // namespace rubble::app
