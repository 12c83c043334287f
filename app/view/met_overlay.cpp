#include "view/met_overlay.h"

#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

/// So many lines are drawn: beyond them nobody tells them apart.
constexpr size_t k_most_lines = 20'000;

void add_loop(QPainterPath& path, const Projection& project, const geometry::ConvexCell::Loop& loop) {
    std::vector<Vec3> closed(loop.begin(), loop.end());
    if (!closed.empty()) closed.push_back(closed.front());
    add_line(path, project, closed);
}

} // namespace

void draw_met(QPainter& painter, Labels& labels, const Camera& camera, const build::Solid& solid,
              std::span<const check::Finding> findings) {
    const Projection project = camera.projection();
    QPainterPath met, only_seen;
    size_t lines = 0;
    for (const auto& piece : solid.pieces) {
        const PlacedPiece& placed = piece->placed;
        if (!placed.piece || !placed.piece->body || lines > k_most_lines) continue;
        const PieceCollisionKind kind = placed.collision.value_or(placed.piece->collision.kind);
        if (kind == PieceCollisionKind::none) {
            const auto& edges = placed.piece->body->edges;
            for (size_t i = 0; i + 1 < edges.size(); i += 2, ++lines)
                add_line(only_seen, project, {to_level(placed, edges[i]), to_level(placed, edges[i + 1])});
        } else if (kind != PieceCollisionKind::faces || !placed.piece->body->remark.empty()) {
            build::for_each_matter(*piece, [&](const geometry::ConvexCell& cell) {
                for (const auto& face : cell.faces)
                    add_loop(met, project, face.loop), lines += face.loop.size();
            });
        }
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(color::ochre, 1.6, Qt::DashLine));
    painter.drawPath(only_seen);
    painter.setPen(QPen(color::plum, 1.6));
    painter.drawPath(met);
    for (const check::Finding& finding : findings)
        if (finding.rule == check::RuleId::opening_closed)
            if (const auto at = camera.to_screen(finding.at))
                labels.put_near(*at, tr("seen open, met closed"), color::plum);
}

} // namespace rubble::app
