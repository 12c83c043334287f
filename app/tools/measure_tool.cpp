#include "tools/measure_tool.h"

#include <cmath>

#include "base/angle.h"
#include "check/flight.h"
#include "edit/brushes.h"
#include "edit/dimensions.h"
#include "level/brush_shape.h"
#include "numbers.h"
#include "text.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// The nearest place of a line in the level to a point of the screen, where it is near.
std::optional<Vec3> caught_on(const Camera& camera, const Vec3& a, const Vec3& b, QPointF screen,
                              double& least) {
    const auto p = camera.to_screen(a), q = camera.to_screen(b);
    if (!p || !q) return {};
    const QPointF way = *q - *p, to = screen - *p;
    const double square = QPointF::dotProduct(way, way);
    if (square < 1) return {};
    const double along = std::clamp(QPointF::dotProduct(to, way) / square, 0.0, 1.0);
    const double far = distance(*p + way * along, screen);
    if (far >= least) return {};
    least = far;
    // Seen in perspective, the middle on the screen is not the middle of the line: where the ray passes it.
    const Vec3 direction = b - a;
    const double t = nearest_along(camera.ray(*p + way * along), a, glm::normalize(direction));
    return a + glm::normalize(direction) * std::clamp(t, 0.0, glm::length(direction));
}

} // namespace

QString meaning_of_distance(const Session& session, const Vec3& from, const Vec3& to) {
    const Character c = session.character();
    const QString who = session.character_name();
    const double run = glm::length(flat(to - from)), rise = to.z - from.z;
    if (run < 1e-6) {
        const double height = std::abs(rise);
        if (height >= c.height_m)
            return tr("%1 stands under it, %2 to spare").arg(who, metres_text(height - c.height_m));
        if (height <= c.step_height_m + 1e-3) return tr("%1 steps onto it").arg(who);
        const double apex = check::highest_ledge(c);
        return height <= apex ? tr("%1 jumps onto it, %2 to spare").arg(who, metres_text(apex - height))
                              : tr("%1 too high to jump onto").arg(metres_text(height - apex));
    }
    if (std::abs(rise) > 1e-6) {
        const double deg = degrees(std::atan2(std::abs(rise), run));
        if (deg <= c.max_slope_deg + 0.1)
            return tr("as a slope %1°: %2 walks it").arg(deg, 0, 'f', 1).arg(who);
    }
    const auto gap = check::longest_gap_pulling(c, rise, std::numeric_limits<double>::infinity());
    if (!gap) return tr("%1 too high for a jump").arg(metres_text(rise - check::highest_ledge(c)));
    if (rise == 0 && run < 2 * c.radius_m) return tr("too narrow for %1 to pass").arg(who);
    return run <= *gap ? tr("a jump leaves %1").arg(metres_text(*gap - run))
                       : tr("%1 too wide for a jump").arg(metres_text(run - *gap));
}

void draw_measure(QPainter& painter, Labels& labels, const Camera& camera, const Vec3& from, const Vec3& to,
                  const QColor& ink, const QString& text) {
    const auto a = camera.to_screen(from), b = camera.to_screen(to);
    if (!a || !b) return;
    painter.setPen(QPen(ink, 1.4));
    painter.drawLine(*a, *b);
    // Ticks across its ends, as on a drawing.
    const double length = std::max(distance(*a, *b), 1.0);
    const QPointF across(-(b->y() - a->y()) / length * 6, (b->x() - a->x()) / length * 6);
    for (const QPointF& end : {*a, *b}) painter.drawLine(end - across, end + across);
    labels.put((*a + *b) / 2 - QPointF(0, 12), text, ink, true);
}

MeasureTool::End MeasureTool::end_at(const Pointer& pointer) const {
    End end{{}, pointer.ground, false};
    if (const auto corner = caught_corner(session_, pointer)) return {corner->item, corner->at, true};
    const auto& solid = session_.built().solid;
    if (!pointer.hit || !solid || size_t(pointer.hit->brush) >= solid->brushes.size()) return end;
    end.item = solid->brushes[size_t(pointer.hit->brush)]->item;
    const Item* item = find_item(session_.level(), end.item);
    if (!item || !item->brush() || snap_catch(session_, pointer, end.place) == 0) return end;
    double least = k_catch_px;
    const BrushBody body = body_of(*item->brush());
    for (const auto& face : body.faces)
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const Vec3 a = geometry::to_metres(body.points[size_t(face.loop[i])]),
                       b = geometry::to_metres(body.points[size_t(face.loop[(i + 1) % face.loop.size()])]);
            if (const auto on = caught_on(pointer.camera, a, b, pointer.screen, least))
                end.place = *on, end.caught = true;
        }
    return end;
}

void MeasureTool::press(const Pointer& pointer) {
    const End end = end_at(pointer);
    if (!from_ || to_)
        from_ = end, to_.reset();
    else
        to_ = end;
}

void MeasureTool::move(const Pointer& pointer) { hover_ = end_at(pointer); }

void MeasureTool::confirm() {
    if (!from_ || !to_) return;
    const Level& level = session_.stored_level();
    session_.apply(edit::with_dimension(level, rubble::end_at(level, from_->item, from_->place),
                                        rubble::end_at(level, to_->item, to_->place)),
                   tr("Dimension"));
    from_.reset(), to_.reset();
}

bool MeasureTool::escape() {
    if (!from_) return false;
    to_ ? to_.reset() : from_.reset();
    return true;
}

void MeasureTool::paint(QPainter& painter, const Camera& camera) {
    if (const auto at = camera.to_screen(hover_.place); at && !to_) {
        painter.setPen(QPen(hover_.caught ? color::accent : color::faint_ink, 1.6));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(*at, hover_.caught ? 7 : 4, hover_.caught ? 7 : 4);
    }
    if (!from_) return;
    const Vec3 to = to_ ? to_->place : hover_.place, way = to - from_->place;
    const QString meaning = meaning_of_distance(session_, from_->place, to);
    const QString length = metres_text(glm::length(way));
    Labels labels(painter);
    draw_measure(painter, labels, camera, from_->place, to, color::accent, tr("%1: %2").arg(length, meaning));
    const auto at = camera.to_screen(to);
    if (!at) return;

    labels.put(*at + QPointF(0, 22),
               tr("x %1  y %2  z %3").arg(plain_number(way.x), plain_number(way.y), plain_number(way.z)),
               color::faint_ink, true);
}

QString MeasureTool::hint() const {
    if (to_) return tr("Enter keeps it as a dimension, a click starts again, Escape goes back one step");
    return from_ ? tr("Click the other end. It snaps to corners and edges, Alt turns that off")
                 : tr("Click a corner, an edge or any place to measure from");
}

} // namespace rubble::app
