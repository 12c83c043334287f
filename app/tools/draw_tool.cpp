#include "tools/draw_tool.h"

#include <QCoreApplication>

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "numbers.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// Cuts begin a little deep, so that the first click already opens something (metres).
constexpr double k_first_cut_m = 1;

} // namespace

Snapped DrawTool::snapped(const Pointer& pointer, const Vec3& at) const {
    if (!pointer.snaps()) return {at, {}};
    Snapped out = snap(session_.level(), {}, at, session_.grid_m(), 8 * pointer.camera.metres_per_pixel(at));
    out.at.z = at.z; // drawn on the surface, whatever its height
    return out;
}

void DrawTool::press(const Pointer& pointer) {
    if (seen_from_the_side(session_, pointer)) return;
    if (step_ == Step::height) {
        move(pointer);
        finish();
        return;
    }
    first_ = second_ = snapped(pointer, pointer.ground).at;
    height_ = 0;
    step_ = Step::base;
}

void DrawTool::move(const Pointer& pointer) {
    if (step_ == Step::idle) {
        guide_ = snapped(pointer, pointer.ground);
        hover_ = guide_.at;
    } else if (step_ == Step::base) {
        if (const auto at = meet_plane(pointer.ray, first_, {0, 0, 1})) {
            guide_ = snapped(pointer, *at);
            second_ = guide_.at;
        }
    } else if (pointer.camera.kind == Camera::Kind::space) {
        const double raw = nearest_along(pointer.ray, second_, {0, 0, 1});
        height_ = pointer.snaps() ? edit::snapped(raw, session_.grid_m()) : raw;
    }
}

void DrawTool::release(const Pointer& pointer) {
    if (step_ != Step::base) return;
    move(pointer);
    const double least = std::min(session_.grid_m(), 0.05);
    if (std::abs(first_.x - second_.x) < least || std::abs(first_.y - second_.y) < least) {
        step_ = Step::idle;
        return;
    }
    step_ = Step::height;
    height_ = effect_ == Effect::cut ? -k_first_cut_m : session_.grid_m();
    if (pointer.camera.kind == Camera::Kind::plan) height_ = effect_ == Effect::cut ? -k_first_cut_m : 1.0;
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
    Brush brush = edit::box_between(first_, second_, height_ == 0 ? 0.01 : height_);
    brush.shape = shape_;
    brush.effect = effect_;
    brush = edit::with_fitting_values(brush, session_.character());
    if (effect_ == Effect::cut) { // a little through the surface, so that no skin stays
        brush.size.z += 0.01;
        if (height_ > 0) brush.place.at.z -= 0.01;
    }
    return brush;
}

void DrawTool::finish() {
    step_ = Step::idle;
    if (std::abs(height_) < 1e-4) return;
    const Level& level = session_.level();
    const Item item{edit::fresh_id(level, "b"), {}, false, brush(), {}};
    session_.apply(edit::with_item(level, session_.layer(), item),
                   effect_ == Effect::cut ? QCoreApplication::translate("DrawTool", "Cut")
                                          : QCoreApplication::translate("DrawTool", "Draw"));
    session_.select({item.id});
}

QString DrawTool::hint() const {
    switch (step_) {
    case Step::idle:
        return QCoreApplication::translate("DrawTool", "Drag the base where it shall stand");
    case Step::base:
        return QCoreApplication::translate("DrawTool", "Let go when the base fits");
    case Step::height:
        return QCoreApplication::translate("DrawTool",
                                           "Lift the height and click, or type it and press Enter");
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
    const Vec3 base = shape.place.at;
    auto label = [&](const Vec3& at, double value) {
        if (const auto s = camera.to_screen(at)) labels.put(*s, metres_text(value), color::accent);
    };
    if (step_ == Step::height) label(second_ + Vec3(0, 0, height_ / 2), std::abs(height_));
    label(base - Vec3(0, shape.size.y / 2, 0), shape.size.x);
    label(base + Vec3(shape.size.x / 2, 0, 0), shape.size.y);
}

} // namespace rubble::app
