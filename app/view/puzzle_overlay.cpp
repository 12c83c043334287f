#include "view/puzzle_overlay.h"

#include <map>

#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_degrees[] = {0, 90, 180, 270};

void draw_arrow(QPainter& painter, const Camera& camera, const Vec3& from, const Vec3& way) {
    const Vec3 aside(-way.y * 0.25, way.x * 0.25, 0);
    const auto tail = camera.to_screen(from), head = camera.to_screen(from + way),
               left = camera.to_screen(from + way * 0.6 + aside),
               right = camera.to_screen(from + way * 0.6 - aside);
    if (!tail || !head || !left || !right) return;
    painter.drawLine(*tail, *head);
    painter.drawLine(*left, *head);
    painter.drawLine(*right, *head);
}

} // namespace

void draw_ruins(QPainter& painter, Labels& labels, const Camera& camera, const PuzzleAnswer& puzzle,
                bool words) {
    if (!puzzle.puzzle || !puzzle.cells) return;
    painter.setRenderHint(QPainter::Antialiasing);
    // One arrow for each cell and direction: with whichever crate it is noticed the latest.
    std::map<std::pair<int, int>, std::optional<int>> shown;
    std::map<std::pair<int, int>, bool> never;
    for (const solve::Ruin& ruin : puzzle.answer.ruins) {
        if (ruin.letter == motion::Letter::wait || ruin.letter == motion::Letter::use) continue;
        const std::pair key{ruin.from, int(ruin.letter)};
        auto& latest = shown[key];
        if (!ruin.noticed_after)
            never[key] = true;
        else if (!latest || *latest < *ruin.noticed_after)
            latest = ruin.noticed_after;
    }
    const double length = puzzle.cells->cell_m * 0.8;
    for (const auto& [key, latest] : shown) {
        const Vec3 from = raised(puzzle.cells->middle_of(puzzle.puzzle->at(key.first)), 0);
        const Placement way{Vec3(0), k_degrees[key.second], {}};
        const bool at_once = !never[key] && latest.value_or(0) == 0;
        painter.setPen(QPen(at_once ? color::ochre : color::plum, at_once ? 2.2 : 3.2));
        draw_arrow(painter, camera, from, way.direction({length, 0, 0}));
        const auto at = camera.to_screen(from + way.direction({length * 0.5, 0, 0}));
        if (!at || at_once || !words) continue;
        labels.put(*at - QPointF(0, 12), never[key] ? tr("ruin, not noticed") : tr("ruin, +%1").arg(*latest),
                   color::plum);
    }
}

} // namespace rubble::app
