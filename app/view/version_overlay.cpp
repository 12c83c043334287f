#include "view/version_overlay.h"

#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

using Kind = study::ItemChange::Kind;

/// An item as lines.
void draw_ghost(QPainter& painter, const Camera& camera, const Level& level, const ItemId& id,
                const Box3& box) {
    const Item* item = find_item(level, id);
    if (item && item->brush())
        draw_outline(painter, camera, *item->brush());
    else
        draw_box(painter, camera, box);
}

void draw_ground(QPainter& painter, const Camera& camera, const study::GroundChange& change) {
    const QColor ink = change.gained ? color::sea_green : color::plum;
    painter.setPen(Qt::NoPen);
    painter.setBrush(QBrush(ink, change.gained ? Qt::FDiagPattern : Qt::BDiagPattern));
    for (const std::vector<Vec3>& area : change.areas) {
        QPolygonF outline;
        for (const Vec3& p : area)
            if (const auto at = camera.to_screen(p)) outline << *at;
        if (outline.size() == int(area.size())) painter.drawPolygon(outline);
    }
    painter.setBrush(Qt::NoBrush);
}

} // namespace

void draw_version(QPainter& painter, Labels& labels, const Camera& camera, const Level& level,
                  const Beside& beside) {
    painter.save();
    for (const study::GroundChange& change : beside.difference.ground) draw_ground(painter, camera, change);
    for (const study::ItemChange& change : beside.difference.items) {
        const bool gone = change.kind == Kind::gone, added = change.kind == Kind::added;
        const QColor ink = gone ? color::plum : added ? color::sea_green : color::blue_grey;
        painter.setPen(QPen(ink, added ? 2 : 1.6, added ? Qt::SolidLine : Qt::DashLine));
        draw_ghost(painter, camera, added ? level : beside.level, change.item,
                   added ? change.now : change.was);
        if (change.kind != Kind::moved) continue;
        const Vec3 from = change.was.middle(), to = change.now.middle();
        painter.setPen(QPen(color::ink, 1.6));
        draw_line(painter, camera, from, to);
        const auto begin = camera.to_screen(from), end = camera.to_screen(to);
        if (!begin || !end) continue;
        painter.setBrush(color::ink);
        painter.drawEllipse(*end, 3, 3);
        painter.setBrush(Qt::NoBrush);
        labels.put((*begin + *end) / 2, metres_text(glm::length(change.by())), color::ink, true);
    }
    for (const study::GroundChange& change : beside.difference.ground)
        if (const auto at = camera.to_screen(change.at))
            labels.put(*at,
                       (change.gained ? QStringLiteral("+%1 m²") : QStringLiteral("−%1 m²"))
                           .arg(change.area_m2, 0, 'f', 1),
                       change.gained ? color::sea_green : color::plum, true);
    painter.restore();
}

} // namespace rubble::app
