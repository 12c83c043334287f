#include <QtTest/QtTest>

#include "build/tile_matter.h"
#include "core/random.h"
#include "core/solve/puzzle_oracle.h"
#include "core/tile_level.h"
#include "level/element_values.h"
#include "solve/solve.h"
#include "test_program.h"

using namespace rubble;
using test::PlainPuzzle;
using test::Random;

namespace {

/// The level of a puzzle, its cells a metre wide.
Level level_of(const PlainPuzzle& puzzle) {
    std::vector<std::string> rows;
    for (int row = 0; row < puzzle.rows; ++row) {
        rows.emplace_back();
        for (int column = 0; column < puzzle.columns; ++column)
            rows.back() += puzzle.floor[size_t(row * puzzle.columns + column)] == '#' ? '#' : '.';
    }
    Level level = test::tile_level(rows, 1, Frame::plan);
    level.walked = Walked::by_cells;
    Layer play = *level.layers.back();
    int count = 0;
    const auto middle = [&](int cell) {
        return Vec3(cell % puzzle.columns + 0.5, puzzle.rows - cell / puzzle.columns - 0.5, 0);
    };
    const auto add = [&](const char* kind, int cell, auto with) {
        Element element{kind, middle(cell), 0, {}};
        element = with(std::move(element));
        play.items.push_back(ItemPtr(
            Item{{std::string(kind) + "-" + std::to_string(count++)}, {}, false, std::move(element), {}}));
        return play.items[play.items.size() - 1]->id.value;
    };
    const auto plain = [](Element e) { return e; };
    add("start", puzzle.start, plain), add("goal", puzzle.goal, plain);
    for (const int cell : puzzle.crates) add("crate", cell, plain);
    for (const auto& key : puzzle.keys)
        add("key", key.cell, [&](Element e) {
            return with_value(with_value(std::move(e), "kind", "k" + std::to_string(key.kind)), "kept",
                              key.kept);
        });
    std::vector<std::string> switches;
    for (const auto& one : puzzle.switches)
        switches.push_back(add("switch", one.cell, [&](Element e) {
            e = with_value(std::move(e), "mode",
                           std::string(one.mode == 'o'   ? "once"
                                       : one.mode == 't' ? "toggle"
                                                         : "held"));
            return with_value(std::move(e), "by",
                              std::string(one.use                 ? "use"
                                          : one.foot && one.crate ? "any"
                                          : one.foot              ? "foot"
                                                                  : "crate"));
        }));
    for (const auto& one : puzzle.dispensers)
        add("dispenser", one.cell, [&](Element e) {
            std::vector<std::string> by;
            for (const int index : one.switches) by.push_back(switches[size_t(index)]);
            return with_value(with_value(std::move(e), "count", double(one.count)), "called_by", by);
        });
    for (const auto& door : puzzle.doors)
        add(door.pearls > 0 ? "gate" : "door", door.cell, [&](Element e) {
            if (door.pearls > 0)
                return with_value(with_value(std::move(e), "pickup", std::string("pearl")), "count",
                                  double(door.pearls));
            std::vector<std::string> by;
            for (const int one : door.switches) by.push_back(switches[size_t(one)]);
            e = with_value(with_value(std::move(e), "open", door.open), "open_by", by);
            return door.key < 0 ? e : with_value(std::move(e), "key", "k" + std::to_string(door.key));
        });
    for (const int cell : puzzle.pearls)
        add("pickup", cell,
            [&](Element e) { return with_value(std::move(e), "kind", std::string("pearl")); });
    for (const int cell : puzzle.boots)
        add("item", cell, [&](Element e) { return with_value(std::move(e), "gives", std::string("boots")); });
    for (const auto& foe : puzzle.foes)
        add("foe", foe.way[0], [&](Element e) {
            e.facing_deg = 90.0 * foe.direction;
            if (foe.follows)
                return with_value(std::move(e), "way",
                                  std::string(foe.follows == 'l' ? "follows_left" : "follows_right"));
            if (foe.sight > 0)
                return with_value(with_value(std::move(e), "way", std::string("comes_nearer")), "sight_m",
                                  double(foe.sight));
            std::vector<Vec3> path;
            for (const int cell : foe.way) path.push_back(middle(cell));
            return with_value(std::move(e), "path", path);
        });
    for (int cell = 0; cell < int(puzzle.floor.size()); ++cell) {
        const char floor = puzzle.floor[size_t(cell)];
        const std::string belts = ">^<v";
        if (floor == '~')
            add("floor", cell, [&](Element e) {
                return with_value(with_value(std::move(e), "acts", std::string("deadly")), "without",
                                  std::string("boots"));
            });
        if (floor == '*')
            add("floor", cell,
                [&](Element e) { return with_value(std::move(e), "acts", std::string("slippery")); });
        if (floor == 'o')
            add("floor", cell,
                [&](Element e) { return with_value(std::move(e), "acts", std::string("crumbles")); });
        if (const size_t way = belts.find(floor); way != std::string::npos)
            add("floor", cell, [&](Element e) {
                return with_value(with_value(std::move(e), "acts", std::string("carries")), "towards_deg",
                                  90.0 * double(way));
            });
    }
    level.layers.back() = std::move(play);
    return level;
}

/// A puzzle of a few things on a small floor.
PlainPuzzle random_puzzle(Random& random) {
    PlainPuzzle p;
    p.columns = random.whole(4, 12), p.rows = random.whole(4, p.columns > 8 ? 6 : 9);
    const int walls = random.whole(10, 40);
    for (int i = 0; i < p.columns * p.rows; ++i) p.floor += random.whole(0, 99) < walls ? '#' : '.';
    std::vector<int> free;
    for (int i = 0; i < int(p.floor.size()); ++i)
        if (p.floor[size_t(i)] == '.') free.push_back(i);
    const auto take = [&]() {
        if (free.empty()) return -1;
        const size_t at = size_t(random.whole(0, int(free.size()) - 1));
        const int cell = free[at];
        free.erase(free.begin() + long(at));
        return cell;
    };
    const auto often = [&](int most, auto add) {
        for (int i = random.whole(0, most); i > 0; --i)
            if (const int cell = take(); cell >= 0) add(cell);
    };
    while (free.size() < 6) free.push_back(int(free.size())), p.floor[free.size() - 1] = '.';
    std::sort(free.begin(), free.end());
    free.erase(std::unique(free.begin(), free.end()), free.end());
    p.start = take(), p.goal = take();
    const int theme = random.whole(0, 5); // so that not everything meets in one level
    for (int i = theme == 4 ? 0 : 1; i > 0; --i)
        if (const int cell = take(); cell >= 0) p.crates.push_back(cell);
    often(theme == 0 ? 5 : 2, [&](int cell) { p.crates.push_back(cell); });
    if (p.crates.size() > 3) { // few places for many crates
        for (size_t i = 0; free.size() > 14 && i < free.size(); ++i)
            if (random.whole(0, 2) == 0) p.floor[size_t(free[i])] = '#', free.erase(free.begin() + long(i--));
    }
    if (theme == 1 || theme == 5) {
        often(2, [&](int cell) { p.keys.push_back({cell, random.whole(0, 1), random.whole(0, 3) == 0}); });
        often(3, [&](int cell) { p.doors.push_back({cell, random.whole(0, 1), false, {}, 0}); });
        p.keys_kept = random.whole(0, 4) == 0;
    }
    if (theme == 2 || theme == 5) {
        often(2, [&](int cell) {
            const int by = random.whole(0, 2);
            const bool use = random.whole(0, 3) == 0;
            p.switches.push_back(
                {cell, "oth"[random.whole(0, use ? 1 : 2)], !use && by != 1, !use && by != 0, use});
        });
        if (random.whole(0, 2) == 0)
            if (const int cell = take(); cell >= 0) {
                std::vector<int> by;
                for (int i = 0; i < int(p.switches.size()); ++i)
                    if (random.whole(0, 1)) by.push_back(i);
                p.dispensers.push_back({cell, random.whole(1, 2), by});
            }
        often(3, [&](int cell) {
            std::vector<int> by;
            for (int i = 0; i < int(p.switches.size()); ++i)
                if (random.whole(0, 1)) by.push_back(i);
            p.doors.push_back({cell, random.whole(0, 5) == 0 ? 0 : -1, random.whole(0, 1) == 1, by, 0});
        });
    }
    if (theme == 3) {
        often(3, [&](int cell) { p.pearls.push_back(cell); });
        often(2, [&](int cell) { p.doors.push_back({cell, -1, false, {}, random.whole(1, 3)}); });
        often(1, [&](int cell) { p.boots.push_back(cell); });
    }
    // Floors lie under other things too.
    if (theme >= 2)
        for (char& floor : p.floor)
            if (floor == '.' && random.whole(0, 6) == 0) floor = "~*>^<vo"[random.whole(0, 6)];
    if (p.floor[size_t(p.start)] != '*') p.floor[size_t(p.start)] = '.';
    for (const auto& one : p.dispensers) p.floor[size_t(one.cell)] = '.';
    if (theme == 4)
        for (int i = random.whole(1, 2); i > 0; --i) {
            // From cell to cell and back, or round a square.
            PlainPuzzle::Foe foe;
            const int cell = take();
            if (cell < 0) continue;
            if (const int rule = random.whole(0, 3); rule > 1) {
                p.floor[size_t(cell)] = '.';
                foe.way.push_back(cell), foe.direction = random.whole(0, 3);
                if (rule == 2)
                    foe.follows = random.whole(0, 1) ? 'l' : 'r';
                else
                    foe.sight = random.whole(1, 5);
                p.foes.push_back(std::move(foe));
                continue;
            }
            const int step = random.whole(0, 1) ? 1 : p.columns;
            for (int at = cell, n = random.whole(1, 4); n >= 0 && at < int(p.floor.size()); --n, at += step) {
                if (step == 1 && at / p.columns != cell / p.columns) break;
                foe.way.push_back(at);
            }
            // The ring that leads back the same way.
            for (int k = int(foe.way.size()) - 2; k > 0; --k) foe.way.push_back(foe.way[size_t(k)]);
            if (std::find(foe.way.begin(), foe.way.end(), p.start) != foe.way.end()) continue;
            p.foes.push_back(std::move(foe));
        }
    p.two_crates = random.whole(0, 4) == 0, p.crates_slide = random.whole(0, 2) == 0;
    return p;
}

motion::CellPuzzle compiled(const PlainPuzzle& puzzle) {
    Level level = level_of(puzzle);
    level.rules = {puzzle.two_crates, puzzle.crates_slide, puzzle.keys_kept, false};
    const auto made = motion::puzzle_of(level);
    return made ? *made : motion::CellPuzzle{};
}

QString drawn(const PlainPuzzle& p) {
    QString out = "\n";
    for (int row = 0; row < p.rows; ++row) {
        for (int column = 0; column < p.columns; ++column) {
            const int cell = row * p.columns + column;
            char c = p.floor[size_t(cell)];
            for (const auto& door : p.doors)
                if (door.cell == cell) c = 'D';
            for (const auto& one : p.switches)
                if (one.cell == cell) c = 'S';
            for (const int crate : p.crates)
                if (crate == cell) c = 'C';
            out += QChar(cell == p.start ? '@' : cell == p.goal ? 'G' : c);
        }
        out += "\n";
    }
    return out;
}

} // namespace

class SolveTest : public QObject {
    Q_OBJECT

private slots:
    /// Solvable, letters, pushes and every ruin as by trying each letter in each state.
    void agrees_with_trying_everything() {
        Random random(17001);
        int solvable = 0, compared = 0, ruins = 0;
        const int wanted = test::rounds(300);
        for (int round = 0; compared < wanted && round < wanted * 60; ++round) {
            const PlainPuzzle puzzle = random_puzzle(random);
            const test::PlainAnswer truth = test::plainly_solved(puzzle, 12000);
            if (!truth.whole || (!truth.solvable && random.whole(0, 3) != 0)) continue;
            // Few of those where one only walks over.
            if (truth.ruins.empty() && truth.solvable && truth.steps < 12 && random.whole(0, 4) != 0)
                continue;
            ++compared;
            const motion::CellPuzzle compiled_puzzle = compiled(puzzle);
            const solve::Answer answer = solve::solved(compiled_puzzle);
            const QByteArray where = (drawn(puzzle) + QString::number(round)).toUtf8();
            QVERIFY2(answer.complete && answer.solvable == truth.solvable, where.constData());
            if (truth.solvable) {
                ++solvable;
                QVERIFY2(answer.steps() == truth.steps && answer.pushes == truth.pushes,
                         (where + QString(" %1 %2, not %3 %4")
                                      .arg(answer.steps())
                                      .arg(answer.pushes)
                                      .arg(truth.steps)
                                      .arg(truth.pushes)
                                      .toUtf8())
                             .constData());
                // It is played letter by letter.
                motion::CellState state = compiled_puzzle.start;
                for (const char c : answer.letters) {
                    const auto played = motion::played(compiled_puzzle, state, *motion::letter_of(c));
                    QVERIFY2(played.outcome == motion::Played::Outcome::moved, where.constData());
                    state = played.state;
                }
                QVERIFY2(motion::solved(compiled_puzzle, state), where.constData());
            }
            std::map<std::tuple<int, int, char>, int> found;
            for (const solve::Ruin& ruin : answer.ruins)
                found[{ruin.from, ruin.crate, motion::char_of(ruin.letter)}] =
                    ruin.noticed_after.value_or(-1);
            ruins += int(found.size());
            QVERIFY2(found == truth.ruins, where.constData());
        }
        qInfo("%d puzzles, %d solvable, %d ruins", compared, solvable, ruins);
        QVERIFY(compared == wanted && solvable > wanted / 3 && ruins > wanted / 2);
    }
};

RUBBLE_TEST(SolveTest)
#include "solve_test.moc"
