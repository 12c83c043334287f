#include "tools/underlay_tool.h"

#include <algorithm>

#include "edit/underlays.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_still_px = 4;

} // namespace

const Underlay* UnderlayTool::underlay() const {
    const auto& all = session_.stored_level().underlays;
    const auto last = std::find_if(all.rbegin(), all.rend(),
                                   [](const Underlay& one) { return !one.hidden && !one.locked; });
    return last == all.rend() ? nullptr : &*last;
}

std::optional<Vec3> UnderlayTool::place(const Pointer& pointer) const {
    const Underlay* under = underlay();
    if (!under) return {};
    Vec3 normal(0);
    normal[under->axis] = 1;
    return meet_plane(pointer.ray, under->at, normal);
}

void UnderlayTool::press(const Pointer& pointer) {
    const auto at = place(pointer);
    if (!at) {
        emit session_.message(tr("There is no visible, unlocked picture to move"));
        return;
    }
    drag_ = Drag{*at, Vec3(0), pointer.screen, false};
}

void UnderlayTool::move(const Pointer& pointer) {
    const auto at = place(pointer);
    if (!at) return;
    hover_ = *at;
    if (!drag_) return;
    drag_->moved = drag_->moved || QLineF(drag_->begin, pointer.screen).length() > k_still_px;
    if (!drag_->moved) return;
    drag_->by = *at - drag_->from;
    Underlay moved = *underlay();
    moved.at += drag_->by;
    session_.preview(edit::with_underlay(session_.stored_level(), moved));
}

void UnderlayTool::release(const Pointer& pointer) {
    if (!drag_) return;
    move(pointer);
    const Drag drag = *drag_;
    drag_.reset();
    if (drag.moved) {
        Underlay moved = *underlay();
        moved.at += drag.by;
        points_.clear();
        session_.apply(edit::with_underlay(session_.stored_level(), moved), tr("Move the picture"));
        return;
    }
    if (points_.size() == 2) points_.clear();
    points_.push_back(drag.from);
    distance_m_.reset();
}

void UnderlayTool::typed(const QString& text) { distance_m_ = parse_metres(text); }

void UnderlayTool::confirm() {
    if (points_.size() != 2 || !distance_m_ || !underlay()) return;
    session_.apply(
        edit::with_underlay(session_.stored_level(),
                            edit::scaled_between(*underlay(), points_[0], points_[1], *distance_m_)),
        tr("Scale the picture"));
    points_.clear();
    distance_m_.reset();
}

bool UnderlayTool::escape() {
    if (drag_) {
        drag_.reset();
        session_.drop_preview();
        return true;
    }
    if (points_.empty()) return false;
    points_.pop_back();
    distance_m_.reset();
    return true;
}

QString UnderlayTool::hint() const {
    if (points_.size() == 2) return tr("Type the distance between these places and press Enter");
    if (points_.size() == 1) return tr("Click the second place whose distance you know");
    return tr("Drag the picture to its place, or click two places in it to scale it");
}

void UnderlayTool::paint(QPainter& painter, const Camera& camera) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(color::accent, 2));
    for (const Vec3& p : points_)
        if (const auto at = camera.to_screen(p)) {
            painter.drawLine(*at - QPointF(8, 0), *at + QPointF(8, 0));
            painter.drawLine(*at - QPointF(0, 8), *at + QPointF(0, 8));
        }
    if (points_.empty()) return;
    const Vec3 end = points_.size() == 2 ? points_[1] : hover_;
    draw_line(painter, camera, points_[0], end);
    const QString text = distance_m_ ? metres_text(*distance_m_) : metres_text(glm::length(end - points_[0]));
    if (const auto at = camera.to_screen((points_[0] + end) / 2.0))
        Labels(painter).put(*at - QPointF(0, 16), text, color::accent, true);
}

} // namespace rubble::app
