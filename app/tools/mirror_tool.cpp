#include "tools/mirror_tool.h"

#include <cmath>

#include "edit/brushes.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

Box3 box_of_selection(const Session& session) {
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.stored_level(), id)) box.add(box_of(*item));
    return box;
}

} // namespace

MirrorTool::~MirrorTool() {
    if (plane_) session_.drop_preview();
}

/// Across the axis on which the pointer is farther off the selection, on the grid.
MirrorPlane MirrorTool::plane_at(const Pointer& pointer) const {
    const Box3 box = box_of_selection(session_);
    const Vec3 off = glm::abs(pointer.ground - box.middle()) / glm::max(box.high - box.low, Vec3(0.1));
    const int axis = off.x >= off.y ? 0 : 1;
    return {axis, edit::snapped(pointer.ground[axis], snap_grid(session_, pointer))};
}

void MirrorTool::move(const Pointer& pointer) {
    if (session_.selection().empty()) return;
    const MirrorPlane plane = plane_at(pointer);
    if (plane_ && *plane_ == plane) return;
    plane_ = plane;
    session_.preview(edit::mirrored(session_.stored_level(), session_.selection(), plane, false).level);
}

void MirrorTool::press(const Pointer& pointer) {
    if (session_.selection().empty()) {
        emit session_.message(tr("First select what to mirror (Q)"));
        return;
    }
    const bool linked = pointer.keys & Qt::ControlModifier;
    const MirrorPlane plane = plane_at(pointer);
    plane_.reset();
    session_.drop_preview();
    edit::Copies made = edit::mirrored(session_.stored_level(), session_.selection(), plane, linked);
    session_.apply(std::move(made.level), linked ? tr("Mirror, linked") : tr("Mirror"));
    session_.select(made.ids);
}

bool MirrorTool::escape() {
    if (!plane_) return false;
    plane_.reset();
    session_.drop_preview();
    return true;
}

void MirrorTool::paint(QPainter& painter, const Camera& camera) {
    if (!plane_) return;
    const Box3 box = box_of_selection(session_);
    const int across = 1 - plane_->axis;
    constexpr double k_beyond_m = 3;
    auto corner = [&](bool far, bool high) {
        Vec3 p(0);
        p[plane_->axis] = plane_->at_m;
        p[across] = far ? box.high[across] + k_beyond_m : box.low[across] - k_beyond_m;
        p.z = high ? box.high.z + 1 : box.low.z;
        return p;
    };
    painter.setPen(QPen(color::plum, 1.6, Qt::DashDotLine));
    const std::array<Vec3, 4> ring{corner(false, false), corner(true, false), corner(true, true),
                                   corner(false, true)};
    for (size_t i = 0; i < 4; ++i) draw_line(painter, camera, ring[i], ring[(i + 1) % 4]);
    if (const auto at = camera.to_screen((ring[2] + ring[3]) * 0.5)) {
        Labels labels(painter);
        labels.put(*at - QPointF(0, 14),
                   tr("%1 = %2").arg(plane_->axis == 0 ? QStringLiteral("x") : QStringLiteral("y"),
                                     metres_text(plane_->at_m)),
                   color::plum, true);
    }
}

QString MirrorTool::hint() const {
    return tr("Point where the mirror should stand and click. With Ctrl the halves stay linked");
}

} // namespace rubble::app
