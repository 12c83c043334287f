#include "tools/slice_tool.h"

#include <array>
#include <cmath>

#include "edit/brushes.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_thinnest_m = 0.01;

Vec3 on_grid(const Session& session, const Pointer& pointer) {
    const double grid = snap_grid(session, pointer);
    return {edit::snapped(pointer.ground.x, grid), edit::snapped(pointer.ground.y, grid), pointer.ground.z};
}

} // namespace

void SliceTool::press(const Pointer& pointer) {
    const Vec3 at = on_grid(session_, pointer);
    strip_ = Strip{at, at};
}

void SliceTool::move(const Pointer& pointer) {
    if (strip_) strip_->to = on_grid(session_, pointer);
}

void SliceTool::release(const Pointer& pointer) {
    move(pointer);
    confirm();
}

/// The number is how deep the strip is.
void SliceTool::typed(const QString& text) {
    const auto depth = parse_metres(text);
    if (!strip_ || !depth) return;
    const int axis = strip_->axis();
    const double way = strip_->to[axis] < strip_->from[axis] ? -1 : 1;
    strip_->to[axis] = strip_->from[axis] + way * *depth;
}

void SliceTool::confirm() {
    if (!strip_) return;
    const Strip strip = *strip_;
    strip_.reset();
    const int axis = strip.axis();
    const auto [from, to] = std::minmax(strip.from[axis], strip.to[axis]);
    if (to - from < k_thinnest_m)
        emit session_.message(tr("Drag from where the slice begins to where it ends"));
    else
        wanted_(axis, from, to);
}

bool SliceTool::escape() {
    const bool any = strip_.has_value();
    strip_.reset();
    return any;
}

void SliceTool::paint(QPainter& painter, const Camera& camera) {
    if (!strip_) return;
    constexpr double k_beyond_m = 1;
    const int axis = strip_->axis();
    Box3 box = box_of(session_.level());
    box.add(strip_->from), box.add(strip_->to);
    painter.setPen(QPen(color::plum, 1.6, Qt::DashDotLine));
    const std::array<double, 2> limits{strip_->from[axis], strip_->to[axis]};
    for (const double limit : limits) {
        // An upright frame round the level where the strip ends.
        std::array<Vec3, 4> ring;
        for (size_t i = 0; i < 4; ++i) {
            ring[i][axis] = limit;
            ring[i][1 - axis] =
                i == 1 || i == 2 ? box.high[1 - axis] + k_beyond_m : box.low[1 - axis] - k_beyond_m;
            ring[i].z = i >= 2 ? box.high.z : box.low.z;
        }
        for (size_t i = 0; i < 4; ++i) draw_line(painter, camera, ring[i], ring[(i + 1) % 4]);
    }
    if (const auto at = camera.to_screen((strip_->from + strip_->to) * 0.5)) {
        Labels labels(painter);
        labels.put(*at - QPointF(0, 14),
                   tr("%1: %2 to %3")
                       .arg(axis == 0 ? QStringLiteral("x") : QStringLiteral("y"), metres_text(limits[0]),
                            metres_text(limits[1])),
                   color::plum, true);
    }
}

QString SliceTool::hint() const {
    return strip_ ? tr("Release where the slice ends, or type its depth and press Enter")
                  : tr("Drag across the level from where the slice begins to where it ends");
}

} // namespace rubble::app
