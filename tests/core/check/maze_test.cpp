#include <QtTest/QtTest>

#include <map>
#include <queue>
#include <set>

#include "check/check.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::Random;

namespace {

using Rows = std::vector<std::string>;

/// A maze of cells of a metre with a start at `s` and a goal at `g`.
Level maze_level(Rows rows, Walked walked) {
    std::map<char, Vec3> at;
    for (size_t row = 0; row < rows.size(); ++row)
        for (size_t column = 0; column < rows[row].size(); ++column)
            if (char& letter = rows[row][column]; letter == 's' || letter == 'g')
                at[letter] = {column + 0.5, double(rows.size() - row) - 0.5, 0}, letter = '.';
    Level level = test::tile_level(rows, 1, Frame::plan);
    level.walked = walked;
    level = test::with_element(level, "start", "start", at.at('s'));
    return test::with_element(level, "goal", "goal", at.at('g'));
}

std::shared_ptr<const Maze> maze_in(const Rows& rows, Walked walked = Walked::by_cells) {
    CheckOptions options;
    options.explain = false;
    return check_level({}, maze_level(rows, walked), options).maze;
}

bool near(double a, double b, double within = 1e-6) { return std::abs(a - b) <= within; }

/// A maze without loops, by a walk that goes back where it cannot go on, with some walls taken out.
Rows random_maze(Random& random, int wide, int high, int openings) {
    Rows rows(size_t(high * 2 + 1), std::string(size_t(wide * 2 + 1), '#'));
    const auto cell = [&](int column, int row) -> char& { return rows[size_t(row)][size_t(column)]; };
    std::vector<std::pair<int, int>> way{{0, 0}};
    cell(1, 1) = '.';
    while (!way.empty()) {
        const auto [x, y] = way.back();
        std::vector<std::pair<int, int>> on;
        for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
            if (x + dx >= 0 && y + dy >= 0 && x + dx < wide && y + dy < high &&
                cell((x + dx) * 2 + 1, (y + dy) * 2 + 1) == '#')
                on.push_back({x + dx, y + dy});
        if (on.empty()) {
            way.pop_back();
            continue;
        }
        const auto [nx, ny] = on[size_t(random.whole(0, int(on.size()) - 1))];
        cell(x + nx + 1, y + ny + 1) = cell(nx * 2 + 1, ny * 2 + 1) = '.';
        way.push_back({nx, ny});
    }
    while (openings > 0) {
        const bool upright = random.whole(0, 1) == 1;
        const int column = upright ? random.whole(1, wide - 1) * 2 : random.whole(0, wide - 1) * 2 + 1,
                  row = upright ? random.whole(0, high - 1) * 2 + 1 : random.whole(1, high - 1) * 2;
        if (cell(column, row) == '#') cell(column, row) = '.', --openings;
    }
    cell(1, 1) = 's', cell(wide * 2 - 1, high * 2 - 1) = 'g';
    return rows;
}

using At = std::pair<int, int>; ///< column, row

std::vector<At> beside(const std::set<At>& free, At at) {
    std::vector<At> out;
    for (const auto& [dx, dy] : {At{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
        if (free.contains({at.first + dx, at.second + dy})) out.push_back({at.first + dx, at.second + dy});
    return out;
}

/// How many steps it is by flood fill; -1 where one does not come.
int steps_between(const std::set<At>& free, At from, At to) {
    std::map<At, int> far{{from, 0}};
    std::queue<At> open({from});
    while (!open.empty()) {
        const At at = open.front();
        open.pop();
        for (const At& next : beside(free, at))
            if (!far.contains(next)) far[next] = far[at] + 1, open.push(next);
    }
    return far.contains(to) ? far[to] : -1;
}

/// The longest way that is nowhere twice, by trying all.
int longest_from(const std::set<At>& free, At at, At to, std::set<At>& been) {
    if (at == to) return 0;
    int most = -1;
    been.insert(at);
    for (const At& next : beside(free, at)) {
        if (been.contains(next)) continue;
        if (const int rest = longest_from(free, next, to, been); rest >= 0) most = std::max(most, rest + 1);
    }
    been.erase(at);
    return most;
}

struct Told {
    std::set<At> free;
    At start, goal;
};

Told told(const Rows& rows) {
    Told out;
    for (int row = 0; row < int(rows.size()); ++row)
        for (int column = 0; column < int(rows[size_t(row)].size()); ++column) {
            const char letter = rows[size_t(row)][size_t(column)];
            if (letter != '#') out.free.insert({column, row});
            if (letter == 's') out.start = {column, row};
            if (letter == 'g') out.goal = {column, row};
        }
    return out;
}

} // namespace

/// Corridors, dead ends, loops and ways of levels seen from above.
class MazeTest : public QObject {
    Q_OBJECT
private slots:
    void a_ring_with_a_dead_end_and_a_shortcut() {
        const Rows rows{
            "###########", "#s.......##", "#.#####.###", "#.#...#.###",
            "#.#.#.#.###", "#...#..g..#", "###########",
        };
        const auto maze = maze_in(rows);
        QVERIFY(maze);
        QCOMPARE(maze->loops, 1);
        QCOMPARE(maze->dead_ends.size(), size_t(2));
        QVERIFY(near(maze->dead_ends[0].length_m, 2)); // right of the goal
        QVERIFY(near(maze->dead_ends[1].length_m, 1)); // right of the start's way
        QVERIFY(near(maze->twice_m, 3));
        QVERIFY(near(maze->shortest.length_m, 10));
        QVERIFY(near(maze->longest.length_m, 14) && maze->longest_is_longest);
        QCOMPARE(maze->shortcuts.size(), size_t(1)); // all of the upper way
        QVERIFY(near(maze->shortcuts[0].saves_m, 4));
        QVERIFY(near(maze->narrowest_m, 1) && near(maze->usual_m, 1));
    }

    void rooms_have_no_dead_ends_in_their_corners() {
        const Rows rows{
            "#############", "#.....###...#", "#.....###...#", "#s........g.#",
            "#.....###...#", "#.....###...#", "#############",
        };
        for (const Walked walked : {Walked::by_cells, Walked::freely}) {
            const auto maze = maze_in(rows, walked);
            QVERIFY(maze);
            QCOMPARE(maze->loops, 0);
            QVERIFY(maze->twice_m < 3);
            QVERIFY(near(maze->shortest.length_m, 9, 0.5));
            QVERIFY(near(maze->narrowest_m, 1, 0.01));
        }
    }

    void nothing_is_said_where_no_way_leads() {
        QVERIFY(!maze_in({"#####", "#s#g#", "#####"}));
        QVERIFY(!maze_in({"#####", "#s#g#", "#####"}, Walked::freely));
        CheckOptions options;
        QVERIFY(!check_level({}, test::tile_level({"###"}), options).maze);
    }

    void random_mazes_by_cells_are_as_trying_all_says() {
        Random random(4107);
        for (int round = 0; round < test::rounds(100); ++round) {
            const int openings = random.whole(0, 3);
            const Rows rows = random_maze(random, random.whole(3, 7), random.whole(3, 6), openings);
            const auto maze = maze_in(rows);
            QVERIFY(maze);
            const Told all = told(rows);
            QCOMPARE(maze->loops, openings);
            QVERIFY(near(maze->shortest.length_m, steps_between(all.free, all.start, all.goal)));
            std::set<At> been, kept = all.free;
            QVERIFY(near(maze->longest.length_m, longest_from(all.free, all.start, all.goal, been)));
            for (bool went = true; went;) { // what one can go into and only back out of
                went = false;
                for (auto at = kept.begin(); at != kept.end();) {
                    const bool ends = *at != all.start && *at != all.goal && beside(kept, *at).size() <= 1;
                    went |= ends;
                    at = ends ? kept.erase(at) : std::next(at);
                }
            }
            QVERIFY(near(maze->twice_m, double(all.free.size() - kept.size())));
            // Every shortcut's loss is what the flood fill says without one of its cells.
            for (const auto& shortcut : maze->shortcuts) {
                const Vec2 p = shortcut.way.places[shortcut.way.places.size() / 2];
                std::set<At> without = all.free;
                without.erase({int(std::floor(p.x)), int(rows.size()) - 1 - int(std::floor(p.y))});
                const int longer = steps_between(without, all.start, all.goal);
                if (longer < 0) continue; // the middle may be a junction
                QVERIFY(longer - maze->shortest.length_m >= shortcut.saves_m - 1e-6);
            }
        }
    }

    void walked_freely_the_same_mazes_have_the_same_loops() {
        Random random(4108);
        for (int round = 0; round < test::rounds(30); ++round) {
            const int openings = random.whole(0, 3);
            const Rows rows = random_maze(random, random.whole(3, 6), random.whole(3, 5), openings);
            const auto cells = maze_in(rows), freely = maze_in(rows, Walked::freely);
            QVERIFY(cells && freely);
            QCOMPARE(freely->loops, cells->loops);
            QVERIFY(freely->shortest.length_m <= cells->shortest.length_m + 0.5);
            QVERIFY(freely->shortest.length_m >= cells->shortest.length_m * 0.8);
            QVERIFY(near(freely->narrowest_m, 1, 0.01));
        }
    }

    void a_gap_beside_a_leaning_thing_is_measured() {
        // The left half of a cell is matter: half a metre less the way through.
        Level level = maze_level({"#######", "#s...g#", "#######"}, Walked::freely);
        TileLayer tiles = **level.layers[0]->tiles;
        const TileGrid::Change leaning{{3, 1}, Tile(1)}; // lower half
        tiles.grid = tiles.grid.with(std::span(&leaning, 1));
        Layer layer = *level.layers[0];
        layer.tiles = Shared<TileLayer>(tiles);
        level.layers[0] = Shared<Layer>(layer);
        level.characters[level.character]["radius_m"] = 0.2;
        CheckOptions options;
        const auto maze = check_level({}, level, options).maze;
        QVERIFY(maze);
        QVERIFY(near(maze->narrowest_m, 0.5, 0.01));
        QVERIFY(maze->narrowest_at.x > 3 && maze->narrowest_at.x < 4);
    }
};

RUBBLE_TEST(MazeTest)
#include "maze_test.moc"
