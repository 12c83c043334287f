#include "tools/knife_tool.h"

#include <cmath>

#include "commands/reshaping.h"
#include "edit/brushes.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr double k_shortest_px = 8;

} // namespace

/// The place pointed at, on the grid; the line of sight goes through it.
KnifeTool::End KnifeTool::end_at(const Pointer& pointer) const {
    End end{pointer.screen, pointer.ground, pointer.ray};
    const double grid = snap_grid(session_, pointer);
    if (grid == 0) return end;
    const Vec3 on_grid = edit::snapped(pointer.ground, grid);
    const auto at = pointer.camera.to_screen(on_grid);
    if (!at) return end;
    return {*at, on_grid, pointer.camera.ray(*at)};
}

void KnifeTool::press(const Pointer& pointer) { from_ = to_ = end_at(pointer); }

void KnifeTool::move(const Pointer& pointer) {
    if (from_) to_ = end_at(pointer);
}

void KnifeTool::release(const Pointer& pointer) {
    if (!from_) return;
    move(pointer);
    const End from = *from_;
    from_.reset();
    if ((to_.screen - from.screen).manhattanLength() < k_shortest_px) return;
    // The plane of the line and the eye.
    const Vec3 way = pointer.camera.flat()
                         ? glm::cross(to_.ray.from - from.ray.from, pointer.camera.forward())
                         : glm::cross(from.ray.direction, to_.ray.direction);
    if (glm::length(way) < 1e-9) return;
    const Vec3 normal = glm::normalize(way);
    cut_with_knife(session_, {normal, -glm::dot(normal, from.ray.from)}, pointer.keys & Qt::ControlModifier);
}

bool KnifeTool::escape() {
    if (!from_) return false;
    from_.reset();
    return true;
}

void KnifeTool::paint(QPainter& painter, const Camera& camera) {
    painter.setPen(QPen(color::accent, 1.5));
    for (const ItemId& id : session_.selection())
        if (const Item* item = find_item(session_.level(), id); item && item->brush())
            draw_outline(painter, camera, *item->brush());
    if (!from_) return;
    painter.setPen(QPen(color::plum, 2, Qt::DashLine));
    const auto a = camera.to_screen(from_->place), b = camera.to_screen(to_.place);
    if (a && b) painter.drawLine(*a, *b);
}

QString KnifeTool::hint() const {
    if (session_.selection().empty()) return tr("Select a brush first (Q), then draw the knife across it");
    return tr("Draw a line across the selected brush. With Ctrl it splits in two");
}

} // namespace rubble::app
