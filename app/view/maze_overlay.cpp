#include "view/maze_overlay.h"

#include "numbers.h"
#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

QPainterPath path_of(const Projection& project, const check::Maze::Way& way) {
    std::vector<Vec3> places;
    for (const Vec2& p : way.places) places.push_back(raised(p, 0));
    QPainterPath path;
    add_line(path, project, places);
    return path;
}

std::optional<QPointF> middle_of(const Camera& camera, const check::Maze::Way& way) {
    if (way.places.empty()) return {};
    return camera.to_screen(raised(way.places[way.places.size() / 2], 0));
}

} // namespace

void draw_maze(QPainter& painter, Labels& labels, const Camera& camera, const check::Maze& maze) {
    const Projection project = camera.projection();
    painter.setBrush(Qt::NoBrush);
    painter.strokePath(path_of(project, maze.longest), QPen(color::blue_grey, 1.6, Qt::DotLine));
    QPen dead(color::ochre, 5, Qt::SolidLine, Qt::RoundCap);
    QColor faint = color::ochre;
    faint.setAlphaF(0.75f);
    dead.setColor(faint);
    for (const auto& dead_end : maze.dead_ends) {
        const check::Maze::Way* longest = nullptr;
        for (const auto& branch : dead_end.branches) {
            painter.strokePath(path_of(project, branch), dead);
            if (!longest || branch.length_m > longest->length_m) longest = &branch;
        }
        if (const auto at = longest ? middle_of(camera, *longest) : std::nullopt)
            labels.put(*at, tr("dead end %1").arg(metres_text(dead_end.length_m)), color::ochre.darker(140));
    }
    for (const auto& shortcut : maze.shortcuts) {
        QColor over = color::sea_green;
        over.setAlphaF(0.8f);
        painter.strokePath(path_of(project, shortcut.way), QPen(over, 4, Qt::SolidLine, Qt::RoundCap));
        if (const auto at = middle_of(camera, shortcut.way))
            labels.put_near(*at, tr("saves %1").arg(metres_text(shortcut.saves_m)),
                            color::sea_green.darker(120));
    }
    if (const auto at = camera.to_screen(raised(maze.narrowest_at, 0)))
        labels.put_near(*at, tr("%1 wide").arg(metres_text(maze.narrowest_m)), color::plum);
}

} // namespace rubble::app
