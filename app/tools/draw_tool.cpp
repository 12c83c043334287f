#include "tools/draw_tool.h"

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "level/brush_shape.h"
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

constexpr double k_least_height_m = 1e-4;

/// Shapes that look different from their four sides.
bool has_a_way(Shape shape) {
    return shape == Shape::ramp || shape == Shape::stairs || shape == Shape::curved_stairs ||
           shape == Shape::arch || shape == Shape::pipe;
}

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
    if (step_ == Step::idle && holds_drawn() && handles_.press_handle(pointer)) return;
    if (step_ == Step::height) {
        move(pointer);
        finish();
        return;
    }
    begin_plane(pointer);
    const auto at = place(pointer);
    if (!at) return;
    first_ = second_ = *at;
    quarters_ = 0;
    if (!elevation_ && !session_.plane()) plane_.at = first_;
    step_ = Step::base;
}

void DrawTool::move(const Pointer& pointer) {
    if (handles_.busy()) return handles_.move(pointer);
    if (step_ == Step::idle && holds_drawn()) handles_.hover_handle(pointer);
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
    if (handles_.busy()) return handles_.release(pointer);
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
    if (handles_.busy()) return handles_.typed(text);
    if (const auto value = parse_metres(text); value && step_ == Step::height) height_ = *value;
}

void DrawTool::confirm() {
    if (handles_.busy()) return handles_.confirm();
    if (step_ == Step::height) finish();
}

bool DrawTool::escape() {
    if (handles_.busy()) return handles_.escape();
    if (step_ == Step::idle) return false;
    step_ = Step::idle;
    return true;
}

bool DrawTool::turn_quarters(int by) {
    if (step_ == Step::idle || !has_a_way(shape_)) return false;
    quarters_ += by;
    return true;
}

bool DrawTool::wheel(const Pointer&, int steps) { return turn_quarters(steps); }

int DrawTool::quarters_over(Vec2 across) const {
    if (!has_a_way(shape_)) return 0;
    const bool along_y = std::abs(across.y) > std::abs(across.x);
    int quarters = along_y ? 1 : 0;
    const bool rises = shape_ == Shape::ramp || shape_ == Shape::stairs;
    if (rises && (along_y ? across.y : across.x) < 0) quarters += 2;
    return ((quarters + quarters_) % 4 + 4) % 4;
}

Brush DrawTool::brush() const {
    const Vec3 from = elevation_ ? first_ : plane_.to_own(first_),
               to = elevation_ ? second_ - plane_.n * height_ : plane_.to_own(second_);
    Brush brush;
    if (elevation_) {
        const double low = std::min(first_.z, second_.z);
        brush = edit::box_between({from.x, from.y, low}, {to.x, to.y, low}, std::abs(first_.z - second_.z));
    } else {
        brush = edit::box_between(from, to, height_);
    }
    brush.shape = shape_, brush.effect = effect_;
    // From the front or the side it rises along what is seen of it, however deep it goes.
    const Vec2 seen = elevation_ ? flat(second_ - first_) : flat(to - from);
    const int quarters = quarters_over(seen);
    brush.place.turn_deg = 90.0 * quarters;
    if (quarters % 2 == 1) std::swap(brush.size.x, brush.size.y);
    brush = edit::with_fitting_values(brush, session_.character());
    if (effect_ == Effect::cut && !elevation_) {
        brush.size.z += k_skin_m;
        if (height_ > 0) brush.place.at.z -= k_skin_m;
    }
    return edit::placed_on(brush, elevation_ ? edit::WorkingPlane{} : plane_);
}

void DrawTool::finish() {
    const Brush drawn = brush();
    if (const std::string problem = problem_of(drawn); !problem.empty()) {
        emit session_.message(std::abs(height_) < k_least_height_m
                                  ? tr("It needs a height: lift it, or type one")
                                  : tr("It cannot be built like that (%1). Escape starts again")
                                        .arg(QString::fromStdString(problem)));
        return;
    }
    step_ = Step::idle;
    const Level& level = session_.level();
    const Item item{edit::fresh_id(level, "b"), {}, false, drawn, {}};
    session_.apply(edit::with_item(level, session_.layer(), item),
                   effect_ == Effect::cut ? tr("Cut") : tr("Draw"));
    session_.select({item.id});
    drawn_ = item.id;
}

std::optional<Box3> DrawTool::worked_on() const {
    if (step_ == Step::idle) return {};
    Box3 box;
    for (const Vec3& p : {first_, second_, second_ + plane_.n * height_}) box.add(p);
    return box;
}

bool DrawTool::holds_drawn() const {
    return session_.selection().size() == 1 && session_.selection()[0] == drawn_;
}

QString DrawTool::hint() const {
    switch (step_) {
    case Step::idle:
        return elevation_ ? tr("Drag its width and height. It is as deep as the selection or the slice")
                          : tr("Drag the base where it should stand");
    case Step::base:
        return has_a_way(shape_) ? tr("Release to set it. The wheel or Space gives it a quarter turn")
               : elevation_      ? tr("Let go when it fits")
                                 : tr("Release to set the base");
    case Step::height:
        return elevation_ ? tr("Click, or type how deep it goes and press Enter")
                          : tr("Move to set the height and click, or type it and press Enter");
    }
    return {};
}

void DrawTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    if (step_ == Step::idle) {
        if (holds_drawn()) handles_.paint_handles(painter, camera);
        if (handles_.busy() || (holds_drawn() && handles_.on_handle())) return;
        if (const auto at = camera.to_screen(hover_)) {
            painter.setPen(QPen(color::accent, 1.5));
            painter.drawLine(*at - QPointF(7, 0), *at + QPointF(7, 0));
            painter.drawLine(*at - QPointF(0, 7), *at + QPointF(0, 7));
        }
        return;
    }
    painter.setPen(QPen(color::accent, 2, effect_ == Effect::cut ? Qt::DashLine : Qt::SolidLine));
    const Brush shape = brush();
    if (problem_of(shape).empty()) {
        draw_outline(painter, camera, shape);
    } else { // no extent yet, or too much of it: where it would be
        const Vec3 a = plane_.to_own(first_), b = plane_.to_own(second_);
        const std::vector<Vec3> base{a, {b.x, a.y, a.z}, b, {a.x, b.y, a.z}, a};
        std::vector<Vec3> path;
        for (const Vec3& p : base) path.push_back(plane_.to_level(p));
        draw_path(painter, camera, path);
    }
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
