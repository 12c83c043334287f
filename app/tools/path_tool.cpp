#include "tools/path_tool.h"

#include <algorithm>
#include <cmath>

#include <QPainter>

#include "base/angle.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "level/brush_shape.h"
#include "numbers.h"
#include "shape_list.h"
#include "text.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// A press that moves by less than this stays a click (pixels).
constexpr double k_same_place_px = 6;
/// An arc has a corner for each piece of its turn.
constexpr double k_arc_step_deg = 15;
constexpr double k_same_m = 1e-4;

/// Corners of the arc from `a` over `through` to `b`, without the first; the straight way where they lie on a
/// line.
std::vector<Vec3> arc(const Vec3& a, const Vec3& through, const Vec3& b) {
    const Vec2 p = flat(a), q = flat(through), r = flat(b);
    const double cross = (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
    if (std::abs(cross) < 1e-6) return {b};
    // The circle through three points.
    const Vec2 pq = q - p, pr = r - p;
    const double d = 2 * cross, pp = glm::dot(pq, pq), rr = glm::dot(pr, pr);
    const Vec2 middle = p + Vec2(pr.y * pp - pq.y * rr, pq.x * rr - pr.x * pp) / d;
    const double radius = glm::length(p - middle);
    const double from = std::atan2(p.y - middle.y, p.x - middle.x);
    double turn = std::atan2(r.y - middle.y, r.x - middle.x) - from;
    const double full = radians(360);
    if (cross > 0 && turn < 0) turn += full;
    if (cross < 0 && turn > 0) turn -= full;
    const int pieces = std::clamp(int(std::ceil(std::abs(degrees(turn)) / k_arc_step_deg)), 2, 48);
    std::vector<Vec3> out;
    for (int i = 1; i < pieces; ++i) {
        const double at = from + turn * i / pieces;
        out.push_back({middle.x + radius * std::cos(at), middle.y + radius * std::sin(at), a.z});
    }
    out.push_back(b);
    return out;
}

std::vector<Vec2> clockwise(std::vector<Vec2> ring) {
    double area = 0;
    for (size_t i = 0; i < ring.size(); ++i) area += cross(ring[i], ring[(i + 1) % ring.size()]);
    if (area > 0) std::reverse(ring.begin(), ring.end());
    return ring;
}

} // namespace

/// The working plane, the ground at the pointer, or, seen flat from the front or the side, the far side of
/// what is drawn: it is raised towards the viewer.
void PathTool::begin_plane(const Pointer& pointer) {
    const auto elevation = elevation_of(session_, pointer.camera);
    depth_.reset();
    if (elevation) {
        plane_ = elevation->plane;
        plane_.at -= plane_.n * elevation->depth_m;
        depth_ = elevation->depth_m;
        return;
    }
    plane_ = session_.plane().value_or(edit::WorkingPlane{});
    if (!session_.plane()) plane_.at = drawing_ground(session_, pointer);
}

Vec3 PathTool::place(const Pointer& pointer) const {
    const Vec3 at = meet_plane(pointer.ray, plane_.at, plane_.n).value_or(pointer.ground);
    if (!pointer.snaps()) return at;
    // The path's own points come first: closing must be easy.
    const double near = 10 * pointer.camera.metres_per_pixel(at);
    for (const Vec3& p : points_)
        if (glm::length(p - at) < near) return p;
    Vec3 out = snapped_on(session_, pointer, plane_, at);
    if (length_ && !points_.empty() && glm::length(out - points_.back()) > k_same_m)
        out = points_.back() + glm::normalize(out - points_.back()) * *length_;
    return out;
}

bool PathTool::is_closing(const Vec3& at) const {
    return points_.size() >= 3 && glm::length(at - points_.front()) < k_same_m;
}

bool PathTool::is_ending(const Vec3& at) const {
    return shape_ == Shape::wall_run && points_.size() >= 2 && glm::length(at - points_.back()) < k_same_m;
}

void PathTool::press(const Pointer& pointer) {
    if (step_ == Step::height) {
        move(pointer);
        finish();
        return;
    }
    if (points_.empty()) begin_plane(pointer);
    end_ = place(pointer);
    through_.reset();
}

void PathTool::move(const Pointer& pointer) {
    if (step_ == Step::height) {
        if (points_.empty() || std::abs(glm::dot(pointer.camera.forward(), plane_.n)) > 0.999) return;
        const double raw = nearest_along(pointer.ray, points_.back(), plane_.n);
        height_ = edit::snapped(raw, snap_grid(session_, pointer));
        return;
    }
    if (points_.empty() && !end_) begin_plane(pointer);
    hovering_ = true;
    hover_ = place(pointer);
    if (!end_ || points_.empty()) return;
    const auto on_screen = pointer.camera.to_screen(*end_);
    const bool dragged = on_screen && QLineF(*on_screen, pointer.screen).length() > k_same_place_px;
    if (dragged && glm::length(hover_ - *end_) > k_same_m) through_ = hover_;
}

void PathTool::release(const Pointer&) {
    if (step_ != Step::points || !end_) return;
    const Vec3 end = *end_;
    if (points_.empty()) {
        points_.push_back(end);
    } else if (is_ending(end)) {
        end_path(false);
    } else {
        const bool closing = is_closing(end);
        if (glm::length(end - points_.back()) > k_same_m) add_piece(end);
        if (closing) {
            points_.pop_back(); // it is the first one
            end_path(true);
        }
    }
    end_.reset(), through_.reset(), length_.reset();
}

std::vector<Vec3> PathTool::piece_to(const Vec3& end) const {
    if (!through_) return {end};
    std::vector<Vec3> out = arc(plane_.to_own(points_.back()), plane_.to_own(*through_), plane_.to_own(end));
    for (Vec3& p : out) p = plane_.to_level(p);
    return out;
}

void PathTool::add_piece(const Vec3& end) {
    pieces_.push_back(points_.size());
    for (const Vec3& p : piece_to(end)) points_.push_back(p);
}

void PathTool::end_path(bool closed) {
    closed_ = closed;
    if (finish_as_hole()) return;
    step_ = Step::height;
    height_ = depth_.value_or(session_.project().measures.ceiling_m);
}

void PathTool::typed(const QString& text) {
    const auto value = parse_metres(text);
    if (!value) return;
    if (step_ == Step::height)
        height_ = *value;
    else if (*value > k_same_m && !points_.empty() && glm::length(hover_ - points_.back()) > k_same_m) {
        length_ = *value;
        hover_ = points_.back() + glm::normalize(hover_ - points_.back()) * *value;
    }
}

void PathTool::confirm() {
    if (step_ == Step::height) {
        finish();
    } else if (length_) {
        add_piece(hover_);
        length_.reset();
    } else if (shape_ == Shape::wall_run && points_.size() >= 2) {
        end_path(false);
    } else if (shape_ == Shape::outline && points_.size() >= 3) {
        end_path(true);
    }
}

bool PathTool::escape() {
    if (points_.empty()) return false;
    if (step_ == Step::height) {
        step_ = Step::points;
        closed_ = false;
    } else if (pieces_.empty()) {
        points_.clear();
    } else {
        points_.resize(pieces_.back());
        pieces_.pop_back();
    }
    end_.reset(), through_.reset(), length_.reset();
    return true;
}

Brush PathTool::brush() const {
    std::vector<Vec3> own;
    for (const Vec3& p : points_) own.push_back(plane_.to_own(p));
    const double thickness = session_.project().measures.wall_m;
    return edit::placed_on(shape_ == Shape::outline ? edit::outline_through(own, height_)
                                                    : edit::wall_through(own, closed_, thickness, height_),
                           plane_);
}

/// A ring within the selected outline becomes a hole of it.
bool PathTool::finish_as_hole() {
    const Item* item = session_.selected();
    if (!holes_ || !item || !item->brush() || item->brush()->shape != Shape::outline) return false;
    Item changed = *item;
    Brush& brush = std::get<Brush>(changed.body);
    std::vector<Vec2> hole;
    for (const Vec3& p : points_) hole.push_back(flat(brush.place.to_own(p)));
    brush.holes.push_back(clockwise(std::move(hole)));
    if (!problem_of(brush).empty()) {
        emit session_.message(tr("A hole must lie inside the selected outline without crossing anything"));
        return true;
    }
    session_.apply(edit::with_changed(session_.stored_level(), changed), tr("Hole in an outline"));
    start_again();
    return true;
}

void PathTool::start_again() {
    step_ = Step::points;
    points_.clear(), pieces_.clear();
    closed_ = hovering_ = false;
}

void PathTool::finish() {
    const Brush drawn = brush();
    const std::string problem = problem_of(drawn);
    if (!problem.empty()) {
        emit session_.message(problem == "points" ? tr("The outline crosses itself: Escape takes points back")
                                                  : tr("It needs a height"));
        return;
    }
    const Level& level = session_.level();
    const Item item{edit::fresh_id(level, "b"), {}, false, drawn, {}};
    session_.apply(edit::with_item(level, session_.layer(), item), draw_text(shape_));
    session_.select({item.id});
    start_again();
}

QString PathTool::hint() const {
    if (step_ == Step::height && depth_)
        return tr(
            "Click, or type how deep it is and press Enter; it begins as deep as the selection or slice");
    if (step_ == Step::height) return tr("Move to set the height and click, or type it and press Enter");
    if (points_.empty())
        return holes_ ? tr("Click the first point of a hole within the selected outline")
                      : tr("Click the first point");
    if (points_.size() < 3 && shape_ == Shape::outline)
        return tr("Click the next point, or type how far it is; drag the press to bend an arc");
    return shape_ == Shape::outline
               ? tr("Click the next point. Enter or the first point closes the outline")
               : tr("Click the next point. Enter ends the wall, its first point closes it");
}

void PathTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    if (step_ == Step::height) {
        painter.setPen(QPen(color::accent, 2));
        const Brush drawn = brush();
        if (problem_of(drawn).empty())
            draw_outline(painter, camera, drawn);
        else
            draw_path(painter, camera, points_);
        Labels labels(painter);
        if (const auto at = camera.to_screen(points_.back() + plane_.n * (height_ / 2)))
            labels.put(*at, metres_text(std::abs(height_)), color::accent);
        return;
    }
    std::vector<Vec3> path = points_;
    const Vec3 end = end_.value_or(hover_);
    if (hovering_ && !points_.empty())
        for (const Vec3& p : piece_to(end)) path.push_back(p);
    painter.setPen(QPen(color::accent, 2));
    draw_path(painter, camera, path);
    painter.setBrush(Qt::white);
    for (size_t i = 0; i < points_.size(); ++i)
        if (const auto at = camera.to_screen(points_[i])) {
            const bool catches = i == 0 && is_closing(hover_);
            painter.drawEllipse(*at, catches ? 7 : 3.5, catches ? 7 : 3.5);
        }
    if (points_.empty() && hovering_) {
        if (const auto at = camera.to_screen(hover_)) {
            painter.drawLine(*at - QPointF(7, 0), *at + QPointF(7, 0));
            painter.drawLine(*at - QPointF(0, 7), *at + QPointF(0, 7));
        }
        return;
    }
    Labels labels(painter);
    const double length = hovering_ ? glm::length(end - points_.back()) : 0;
    if (length > k_same_m)
        if (const auto at = camera.to_screen((end + points_.back()) / 2.0))
            labels.put(*at, metres_text(length), color::accent);
}

} // namespace rubble::app
