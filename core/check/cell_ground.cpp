#include "check/cell_ground.h"

#include <algorithm>
#include <queue>

namespace rubble::check {

namespace {

constexpr CellAt k_beside[] = {{1, 0}, {0, -1}, {-1, 0}, {0, 1}};
/// Longest time in a cell (steps).
constexpr int k_most_steps = 120 * 60;

} // namespace

Ground cell_ground(const motion::World& world) {
    const build::WalkedCells& cells = *world.moving().cells;
    Ground ground;
    ground.cells = world.moving().cells;
    ground.fragment_of_cell.assign(size_t(cells.columns) * size_t(cells.rows), -1);
    const auto at = [&](CellAt cell) -> int& {
        return ground.fragment_of_cell[size_t(cell.row) * size_t(cells.columns) + size_t(cell.column)];
    };
    ground.tops.push_back({-1, {}, 0, {}, {}, 0, {}});
    std::vector<Box2> boxes;
    for (int row = 0; row < cells.rows; ++row)
        for (int column = 0; column < cells.columns; ++column) {
            if (!cells.free({column, row})) continue;
            at({column, row}) = int(ground.fragments.size());
            Fragment fragment;
            const Vec2 middle = cells.middle_of({column, row}), half(cells.cell_m / 2);
            fragment.box = {middle - half, middle + half};
            const Vec2 low = fragment.box.low, high = fragment.box.high;
            fragment.area = {low, {high.x, low.y}, high, {low.x, high.y}};
            fragment.area_m2 = cells.cell_m * cells.cell_m;
            fragment.top = 0;
            boxes.push_back(fragment.box);
            ground.fragments.push_back(std::move(fragment));
        }
    ground.grid = geometry::BoxGrid(boxes);
    ground.before.assign(ground.fragments.size(), -1);
    for (int row = 0; row < cells.rows; ++row)
        for (int column = 0; column < cells.columns; ++column) {
            const int from = at({column, row});
            if (from < 0) continue;
            for (const CellAt by : k_beside) {
                const CellAt next{column + by.column, row + by.row};
                if (!cells.free(next)) continue;
                Portal portal;
                portal.to = at(next);
                const Vec2 way(by.column, -by.row), middle = cells.middle_of({column, row});
                const Vec2 edge = middle + way * (cells.cell_m / 2),
                           along = left_of(way) * (cells.cell_m / 2);
                portal.a = edge - along, portal.b = edge + along;
                portal.walked = true;
                ground.fragments[size_t(from)].portals.push_back(portal);
            }
        }
    // Connected cells are one ledge where nothing acts.
    for (size_t first = 0; first < ground.fragments.size(); ++first) {
        if (ground.fragments[first].ledge >= 0) continue;
        const int ledge = int(ground.ledges.size());
        ground.ledges.emplace_back();
        std::vector<int> open{int(first)};
        ground.fragments[first].ledge = ledge;
        while (!open.empty()) {
            const int f = open.back();
            open.pop_back();
            const Fragment& fragment = ground.fragments[size_t(f)];
            Ledge& all = ground.ledges.back();
            all.fragments.push_back(f);
            all.area_m2 += fragment.area_m2;
            all.box.add(raised(fragment.box.low, 0)), all.box.add(raised(fragment.box.high, 0));
            if (world.moving().puzzle)
                continue; // each cell for itself: which are reached is not told by walls
            for (const Portal& portal : fragment.portals)
                if (int& other = ground.fragments[size_t(portal.to)].ledge; other < 0)
                    other = ledge, open.push_back(portal.to);
        }
        std::sort(ground.ledges.back().fragments.begin(), ground.ledges.back().fragments.end());
    }
    return ground;
}

int fragment_of_cell(const Ground& ground, Vec2 place) {
    const CellAt cell = ground.cells->cell_at(place);
    if (!ground.cells->free(cell)) return -1;
    return ground.fragment_of_cell[size_t(cell.row) * size_t(ground.cells->columns) + size_t(cell.column)];
}

bool walk_by_cells(motion::Recorder& recorder, const Ground& ground, int fragment) {
    const int begin = fragment_of_cell(ground, flat(recorder.state().at));
    if (begin < 0 || fragment < 0) return false;
    std::vector<int> came(ground.fragments.size(), -1);
    std::queue<int> open;
    open.push(fragment);
    came[size_t(fragment)] = fragment;
    while (!open.empty() && came[size_t(begin)] < 0) { // from the end, so that the way reads forwards
        const int f = open.front();
        open.pop();
        for (const Portal& portal : ground.fragments[size_t(f)].portals)
            if (came[size_t(portal.to)] < 0) came[size_t(portal.to)] = f, open.push(portal.to);
    }
    if (came[size_t(begin)] < 0) return false;
    const auto middle = [&](int f) {
        const Box2& box = ground.fragments[size_t(f)].box;
        return (box.low + box.high) * 0.5;
    };
    for (int at = begin; at != fragment; at = came[size_t(at)]) {
        const int next = came[size_t(at)];
        const Vec2 way = glm::normalize(middle(next) - middle(at));
        // Held for one step; the figure arrives by itself, so that it never runs past a corner. Along a
        // straight way it is held on.
        const bool straight = next != fragment &&
                              glm::dot(glm::normalize(middle(came[size_t(next)]) - middle(next)), way) > 0.5;
        int steps = 0;
        do {
            const bool holds = steps == 0 || straight;
            recorder.advance({holds ? way : Vec2(0), false, false, false});
            if (recorder.state().dead || ++steps > k_most_steps) return false;
        } while (glm::dot(middle(next) - flat(recorder.state().at), way) > 1e-9);
    }
    return true;
}

} // namespace rubble::check
