#include "tools/opening_tool.h"

#include "edit/brushes.h"
#include "edit/items.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

QString opening_name(edit::OpeningKind kind) {
    switch (kind) {
    case edit::OpeningKind::door:
        return tr("Door");
    case edit::OpeningKind::window:
        return tr("Window");
    case edit::OpeningKind::archway:
        return tr("Archway");
    }
    return {};
}

} // namespace

/// In the wall that is pointed at, its middle put onto half the grid along the wall.
std::optional<Brush> OpeningTool::opening_at(const Pointer& pointer) const {
    const auto& solid = session_.built().solid;
    if (!pointer.hit || !solid || size_t(pointer.hit->brush) >= solid->brushes.size()) return {};
    const Item* host = find_item(session_.level(), solid->brushes[size_t(pointer.hit->brush)]->item);
    if (!host || !host->brush() || host->brush()->effect == Effect::cut) return {};
    Vec3 at = pointer.hit->at;
    if (const double grid = snap_grid(session_, pointer); grid > 0) {
        const Vec3 along = glm::normalize(glm::cross(Vec3(0, 0, 1), pointer.hit->normal) + Vec3(1e-12));
        const double place = glm::dot(at - host->brush()->place.at, along);
        at += along * (edit::snapped(place, grid / 2) - place);
    }
    return edit::opening_in(*host, at, pointer.hit->normal, kind_, session_.character(),
                            session_.project().measures);
}

void OpeningTool::move(const Pointer& pointer) { hover_ = opening_at(pointer); }

void OpeningTool::press(const Pointer& pointer) {
    const auto opening = opening_at(pointer);
    if (!opening) {
        emit session_.message(tr("Point at an upright wall of a fill"));
        return;
    }
    const Level& level = session_.stored_level();
    const Item item{edit::fresh_id(level, "b"), opening_name(kind_).toStdString(), false, *opening, {}};
    // Beside its wall, so that it cuts that and nothing that comes later.
    session_.apply(edit::with_item_after(level, opening->host, item), opening_name(kind_));
    session_.select({item.id});
    hover_.reset();
}

void OpeningTool::paint(QPainter& painter, const Camera& camera) {
    if (!hover_) return;
    painter.setPen(QPen(color::accent, 2, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
    draw_outline(painter, camera, *hover_);
    const auto at = camera.to_screen(hover_->place.at + Vec3(0, 0, hover_->size.z));
    if (!at) return;
    Labels labels(painter);
    labels.put(*at - QPointF(0, 16),
               tr("%1 × %2").arg(metres_text(hover_->size.x), metres_text(hover_->size.z)), color::accent,
               true);
}

QString OpeningTool::hint() const {
    return tr("Point at a wall and click. Its size suits the character, and it follows its wall");
}

} // namespace rubble::app
