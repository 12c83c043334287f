#include "tools/item_handles.h"

#include "edit/brushes.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_room_px = 60;
constexpr size_t k_most_with_handles = 500; // their box is looked for with every frame

/// Of several items, a group or an element: they are raised and turned together.
std::vector<ItemHandle> box_handles(const Box3& box, const Camera& camera) {
    std::vector<ItemHandle> out;
    const Vec3 middle = box.middle();
    const double pixel = camera.metres_per_pixel(middle);
    auto add = [&](Grip grip, const Vec3& place) {
        if (const auto at = camera.to_screen(place)) out.push_back({grip, BoxSide::top, *at, place});
    };
    if (camera.kind == Camera::Kind::space)
        add(Grip::raise, Vec3(middle.x, middle.y, box.high.z + 44 * pixel));
    if (!camera.flat() || camera.kind == Camera::Kind::plan)
        add(Grip::turn, Vec3(box.high.x + 34 * pixel, middle.y, middle.z));
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
    if (camera.kind == Camera::Kind::space)
        add(Grip::raise, BoxSide::top, edit::middle_of(brush, BoxSide::top) + Vec3(0, 0, 44 * pixel));
    const bool from_the_side = camera.flat() && camera.kind != Camera::Kind::plan;
    if (!brush.place.rotation && !from_the_side) {
        const Vec3 out_x = edit::outward(brush, BoxSide::right);
        add(Grip::turn, BoxSide::right, edit::middle_of(brush, BoxSide::right) + out_x * (34 * pixel));
    }
    return out;
}

} // namespace

Box3 selection_box(const Session& session) {
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id)) box.add(box_of(*item));
    return box;
}

std::vector<ItemHandle> handles_of(const Session& session, const Camera& camera) {
    const size_t count = session.selection().size();
    if (count == 0 || count > k_most_with_handles) return {};
    if (session.stage() == Stage::dress || !session.picks().empty()) return {};
    const Item* item = session.selected();
    if (item && item->brush()) return brush_handles(*item->brush(), camera);
    const Box3 box = selection_box(session);
    return box.empty() ? std::vector<ItemHandle>{} : box_handles(box, camera);
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
    if (handle.grip == Grip::turn) {
        painter.setBrush(Qt::NoBrush);
        painter.drawArc(QRectF(handle.at.x() - 8, handle.at.y() - 8, 16, 16), 40 * 16, 280 * 16);
    }
    if (handle.grip == Grip::raise)
        painter.drawPolygon(
            QPolygonF{handle.at + QPointF(0, -8), handle.at + QPointF(5, 3), handle.at + QPointF(-5, 3)});
}

} // namespace rubble::app
