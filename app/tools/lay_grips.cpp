#include "tools/lay_grips.h"

#include <cmath>

#include "edit/lays.h"
#include "level/face_name.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_arm_px = 46, k_box_px = 5;
/// With the grid on, pictures move by this part of its step, and grow by steps of this.
constexpr double k_grid_part = 0.25, k_size_step = 0.05;

} // namespace

std::optional<LayGrips::Face> LayGrips::face(const Level& level, const edit::FaceRef& ref) const {
    const Item* item = find_item(level, ref.item);
    if (!item || !item->brush()) return {};
    const Look look = edit::look_of(*item->brush(), ref.face);
    const Material* material = find_material(session_.project(), look.material);
    if (!material || !material->picture()) return {};
    for (const NamedFace& one : named_faces(*item->brush())) {
        if (one.side.name != ref.face || one.corners.size() < 3) continue;
        std::vector<Vec3> loop;
        Vec3 middle(0), normal(0);
        for (const Vec3& p : one.corners)
            loop.push_back(item->brush()->place.to_level(p)), middle += loop.back();
        middle /= double(loop.size());
        for (size_t i = 1; i + 1 < loop.size(); ++i)
            normal += glm::cross(loop[i] - loop[0], loop[i + 1] - loop[0]);
        if (glm::length(normal) < 1e-12) return {};
        return Face{ref, *material, *item->brush(), look.lay, glm::normalize(normal), middle};
    }
    return {};
}

std::optional<LayGrips::Face> LayGrips::face() const {
    const auto& faces = session_.selected_items().faces();
    if (session_.stage() != Stage::dress || faces.empty()) return {};
    return face(session_.level(), faces.back());
}

std::vector<LayGrips::Handle> LayGrips::handles(const Face& face, const Camera& camera) {
    const Vec3 look = camera.flat() ? camera.forward() : face.middle - camera.eye();
    if (glm::dot(face.normal, look) > -1e-6) return {}; // it looks away
    const auto middle = camera.to_screen(face.middle);
    if (!middle) return {};
    const edit::PictureAxes axes =
        edit::picture_axes({face.material, face.brush, face.ref.face, face.normal}, face.lay);
    const auto arm = [&](const Vec3& way) -> std::optional<QPointF> {
        const auto end = camera.to_screen(face.middle + way * 0.1);
        if (!end) return {};
        const QPointF to = *end - *middle;
        const double length = std::hypot(to.x(), to.y());
        return length < 1e-6 ? std::nullopt : std::optional(*middle + to * (k_arm_px / length));
    };
    std::vector<Handle> out{{Grip::move, *middle}};
    if (const auto right = arm(axes.right)) out.push_back({Grip::turn, *right});
    if (const auto up = arm(axes.up)) out.push_back({Grip::size, *up});
    return out;
}

bool LayGrips::press(const Pointer& pointer) {
    const auto own = face();
    if (!own) return false;
    for (const Handle& handle : handles(*own, pointer.camera)) {
        if (distance(handle.at, pointer.screen) > k_catch_px) continue;
        const auto from = meet_plane(pointer.ray, own->middle, own->normal);
        if (!from) return false;
        drag_ = Drag{handle.grip, session_.stored_level(), session_.selected_items().faces(), *own, *from};
        return true;
    }
    return false;
}

void LayGrips::move(const Pointer& pointer) {
    if (!drag_) return;
    const Face& own = drag_->face;
    const auto at = meet_plane(pointer.ray, own.middle, own.normal);
    if (!at) return;
    const edit::LaidFace laid{own.material, own.brush, own.ref.face, own.normal};
    const edit::PictureAxes axes = edit::picture_axes(laid, own.lay);
    const auto stepped = [](double value, double step) {
        return step > 0 ? std::round(value / step) * step : value;
    };
    const double grid = snap_grid(session_, pointer) * k_grid_part;
    const Vec3 by = *at - drag_->from;
    const Vec3 moved =
        axes.right * stepped(glm::dot(by, axes.right), grid) + axes.up * stepped(glm::dot(by, axes.up), grid);
    const Vec3 was = drag_->from - own.middle, now = *at - own.middle;
    const double deg =
        stepped(degrees(std::atan2(glm::dot(glm::cross(was, now), own.normal), glm::dot(was, now))),
                snap_turn(session_, pointer));
    double factor = glm::length(was) > 1e-9 ? glm::length(now) / glm::length(was) : 1;
    factor = std::max(grid > 0 ? stepped(factor, k_size_step) : factor, k_size_step);
    const auto changed = [&](const edit::LaidFace& face, const Lay& lay) {
        switch (drag_->grip) {
        case Grip::move:
            return edit::moved_by(face, lay, moved);
        case Grip::turn:
            return edit::turned_about(face, lay, own.middle, deg);
        case Grip::size:
            return edit::sized_about(face, lay, own.middle, factor);
        }
        return lay;
    };
    Level next =
        edit::with_looks_by(drag_->before, drag_->faces, [&](const edit::FaceRef& ref, const Look& look) {
            const auto other = face(drag_->before, ref);
            if (!other) return look;
            return Look{look.material,
                        changed({other->material, other->brush, other->ref.face, other->normal}, other->lay)};
        });
    drag_->moved = true;
    session_.preview(std::move(next));
}

void LayGrips::release() {
    if (!drag_) return;
    const bool moved = drag_->moved;
    const QString what = drag_->grip == Grip::move   ? tr("Move a picture")
                         : drag_->grip == Grip::turn ? tr("Turn a picture")
                                                     : tr("Size a picture");
    drag_.reset();
    if (!moved) return;
    Level level = session_.level();
    session_.drop_preview();
    session_.apply(std::move(level), what);
}

void LayGrips::put_back() {
    if (!drag_) return;
    drag_.reset();
    session_.drop_preview();
}

void LayGrips::paint(QPainter& painter, const Camera& camera) const {
    const auto own = face();
    if (!own) return;
    const auto all = handles(*own, camera);
    if (all.empty()) return;
    painter.setPen(QPen(color::accent, 1.6));
    for (const Handle& handle : all) painter.drawLine(all[0].at, handle.at);
    for (const Handle& handle : all) {
        painter.setBrush(drag_ && drag_->grip == handle.grip ? color::accent : QColor(Qt::white));
        const QRectF box(handle.at.x() - k_box_px, handle.at.y() - k_box_px, 2 * k_box_px, 2 * k_box_px);
        switch (handle.grip) {
        case Grip::move:
            painter.drawRect(box);
            break;
        case Grip::turn:
            painter.drawEllipse(box);
            break;
        case Grip::size:
            painter.drawPolygon(QPolygonF{handle.at + QPointF(0, -6), handle.at + QPointF(6, 0),
                                          handle.at + QPointF(0, 6), handle.at + QPointF(-6, 0)});
            break;
        }
    }
    painter.setBrush(Qt::NoBrush);
}

} // namespace rubble::app
