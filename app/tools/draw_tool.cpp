#include "tools/draw_tool.h"

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// Cuts begin a little deep, so that the first click already opens something (metres).
constexpr double k_first_cut_m = 1;
/// A cut goes a little through the surface, so that no skin stays.
constexpr double k_skin_m = 0.01;
constexpr double k_plane_m = 0.05;

} // namespace

std::unique_ptr<DrawTool> DrawTool::of_planes(Session& session) {
    auto tool = std::make_unique<DrawTool>(session, Shape::box, Effect::fill);
    tool->thickness_m_ = k_plane_m;
    return tool;
}

/// The plane of what is pointed at, the working plane, or, seen flat from the front or the side, the view's
/// own: as deep in the level as the selection, or the slice, tells.
void DrawTool::begin_plane(const Pointer& pointer) {
    const auto elevation = elevation_of(session_, pointer.camera);
    elevation_ = elevation.has_value();
    if (elevation) {
        plane_ = elevation->plane, height_ = elevation->depth_m;
        return;
    }
    plane_ = session_.plane().value_or(edit::WorkingPlane{});
    if (!session_.plane()) plane_.at = drawing_ground(session_, pointer);
}

std::optional<Vec3> DrawTool::place(const Pointer& pointer) const {
    const auto at = meet_plane(pointer.ray, plane_.at, plane_.n);
    if (!at) return {};
    return snapped_on(session_, pointer, plane_, *at);
}

void DrawTool::press(const Pointer& pointer) {
    if (step_ == Step::height) {
        move(pointer);
        finish();
        return;
    }
    begin_plane(pointer);
    const auto at = place(pointer);
    if (!at) return;
    first_ = second_ = *at;
    if (!elevation_ && !session_.plane()) plane_.at = first_;
    step_ = Step::base;
}

void DrawTool::move(const Pointer& pointer) {
    if (step_ == Step::idle) {
        begin_plane(pointer);
        if (const auto at = place(pointer)) hover_ = *at;
    } else if (step_ == Step::base) {
        if (const auto at = place(pointer)) second_ = *at;
    } else if (!elevation_ && std::abs(glm::dot(pointer.camera.forward(), plane_.n)) < 0.999) {
        const double raw = nearest_along(pointer.ray, second_, plane_.n);
        height_ = edit::snapped(raw, snap_grid(session_, pointer));
    }
}

void DrawTool::release(const Pointer& pointer) {
    if (step_ != Step::base) return;
    move(pointer);
    const double least = std::min(session_.grid_m(), 0.05);
    const Vec3 drawn = plane_.to_own(second_) - plane_.to_own(first_);
    if (std::abs(drawn.x) < least || std::abs(drawn.y) < least) {
        step_ = Step::idle;
        return;
    }
    step_ = Step::height;
    if (elevation_) return;
    if (thickness_m_) {
        height_ = *thickness_m_;
        return finish();
    }
    const bool seen_flat = std::abs(glm::dot(pointer.camera.forward(), plane_.n)) > 0.999;
    height_ = effect_ == Effect::cut ? -k_first_cut_m : seen_flat ? 1.0 : session_.grid_m();
}

void DrawTool::typed(const QString& text) {
    if (const auto value = parse_metres(text); value && step_ == Step::height) height_ = *value;
}

void DrawTool::confirm() {
    if (step_ == Step::height) finish();
}

bool DrawTool::escape() {
    if (step_ == Step::idle) return false;
    step_ = Step::idle;
    return true;
}

Brush DrawTool::brush() const {
    if (elevation_) {
        Box3 box;
        box.add(first_), box.add(second_);
        box.add(first_ - plane_.n * height_);
        Brush brush =
            edit::box_between({box.low.x, box.low.y, box.low.z}, {box.high.x, box.high.y, box.low.z},
                              std::max(box.high.z - box.low.z, 0.01));
        brush.shape = shape_, brush.effect = effect_;
        return edit::placed_on(edit::with_fitting_values(brush, session_.character()), {});
    }
    Brush brush =
        edit::box_between(plane_.to_own(first_), plane_.to_own(second_), height_ == 0 ? 0.01 : height_);
    brush.shape = shape_;
    brush.effect = effect_;
    brush = edit::with_fitting_values(brush, session_.character());
    if (effect_ == Effect::cut) {
        brush.size.z += k_skin_m;
        if (height_ > 0) brush.place.at.z -= k_skin_m;
    }
    return edit::placed_on(brush, plane_);
}

void DrawTool::finish() {
    step_ = Step::idle;
    if (std::abs(height_) < 1e-4) return;
    const Level& level = session_.level();
    const Item item{edit::fresh_id(level, "b"), {}, false, brush(), {}};
    session_.apply(edit::with_item(level, session_.layer(), item),
                   effect_ == Effect::cut ? tr("Cut") : tr("Draw"));
    session_.select({item.id});
}

QString DrawTool::hint() const {
    switch (step_) {
    case Step::idle:
        return elevation_ ? tr("Drag its width and height, as deep as the selection is or the slice")
                          : tr("Drag the base where it shall stand");
    case Step::base:
        return elevation_ ? tr("Let go when it fits") : tr("Let go when the base fits");
    case Step::height:
        return elevation_ ? tr("Click, or type how deep it goes and press Enter")
                          : tr("Lift the height and click, or type it and press Enter");
    }
    return {};
}

void DrawTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    if (step_ == Step::idle) {
        if (const auto at = camera.to_screen(hover_)) {
            painter.setPen(QPen(color::accent, 1.5));
            painter.drawLine(*at - QPointF(7, 0), *at + QPointF(7, 0));
            painter.drawLine(*at - QPointF(0, 7), *at + QPointF(0, 7));
        }
        return;
    }
    painter.setPen(QPen(color::accent, 2, effect_ == Effect::cut ? Qt::DashLine : Qt::SolidLine));
    const Brush shape = brush();
    draw_outline(painter, camera, shape);
    Labels labels(painter);
    const auto label = [&](const Vec3& at, double value) {
        if (const auto s = camera.to_screen(at)) labels.put(*s, metres_text(value), color::accent);
    };
    const Vec3 drawn = plane_.to_own(second_) - plane_.to_own(first_);
    if (step_ == Step::height)
        label(second_ + plane_.n * (elevation_ ? -height_ / 2 : height_ / 2), std::abs(height_));
    label(plane_.to_level(plane_.to_own(first_) + Vec3(drawn.x / 2, 0, 0)), std::abs(drawn.x));
    label(plane_.to_level(plane_.to_own(second_) - Vec3(0, drawn.y / 2, 0)), std::abs(drawn.y));
}

} // namespace rubble::app
