#include <QtTest/QtTest>

#include <array>

#include "check/cell_ground.h"
#include "check/check.h"
#include "check/puzzle_mends.h"
#include "core/tile_level.h"
#include "edit/items.h"
#include "io/project_file.h"
#include "level/element_values.h"
#include "test_program.h"

using namespace rubble;

namespace {

Level demo_puzzle(const char* name) {
    const auto loaded = io::load_level_with_project(
        std::string(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/") + name + ".level.json");
    return loaded ? loaded->level : Level{};
}

solve::Answer solved(const Level& level) {
    const auto puzzle = motion::puzzle_of(level);
    return puzzle ? solve::solved(*puzzle) : solve::Answer{};
}

int late_ruins(const solve::Answer& answer) {
    return int(std::count_if(answer.ruins.begin(), answer.ruins.end(),
                             [](const solve::Ruin& one) { return one.noticed_after != 0; }));
}

/// A level walked by cells of a metre, with elements in the middle of cells.
Level cells(const std::vector<std::string>& rows,
            const std::vector<std::tuple<const char*, Element>>& elements) {
    Level level = test::tile_level(rows, 1, Frame::plan);
    level.walked = Walked::by_cells;
    Layer play = *level.layers.back();
    for (const auto& [id, element] : elements) play.items.push_back(Item{{id}, {}, false, element, {}});
    level.layers.back() = std::move(play);
    return level;
}

} // namespace

/// What is told of puzzles beside their solution.
class PuzzleMendsTest : public QObject {
    Q_OBJECT

private slots:
    void mends_leave_fewer_ruins_and_a_solution() {
        const Level level = demo_puzzle("pallet-shift-3-first-try");
        const solve::Answer before = solved(level);
        QVERIFY(before.solvable == true && late_ruins(before) > 0);
        const auto mends = check::puzzle_mends(level, before, {});
        QVERIFY(!mends.empty());
        for (const check::PuzzleMend& mend : mends) {
            int layer = 0;
            for (size_t i = 0; i < level.layers.size(); ++i)
                if (!level.layers[i]->items.empty()) layer = int(i);
            const solve::Answer now = solved(edit::with_item(level, layer, mend.item));
            QVERIFY(now.solvable == true);
            QCOMPARE(late_ruins(before) - late_ruins(now), mend.fewer_ruins);
            QVERIFY(mend.fewer_ruins > 0);
            QCOMPARE(now.steps(), mend.steps);
        }
    }

    void decoration_changes_nothing_and_the_rest_does() {
        const Level level = demo_puzzle("pallet-shift-2");
        const solve::Answer before = solved(level);
        const auto idle = check::decoration_of(level, before, {});
        for (const Item* item : elements_of(level)) {
            const Role role = role_of(*item->element());
            if (role == Role::start || role == Role::goal) continue;
            const std::array gone{item->id};
            const solve::Answer now = solved(edit::without(level, gone));
            const bool same =
                now.solvable == true && now.steps() == before.steps() && now.pushes == before.pushes;
            QCOMPARE(std::find(idle.begin(), idle.end(), item->id) != idle.end(), same);
        }
    }

    void a_card_of_what_can_be_counted_by_hand() {
        // One corridor: no choice at all, and a cell that nobody gets into.
        const Level corridor =
            cells({"########", "#......#", "####.###", "########"},
                  {{"s", {"start", {1.5, 2.5, 0}, 0, {}}}, {"g", {"goal", {6.5, 2.5, 0}, 0, {}}}});
        const solve::Answer way = solved(corridor);
        QVERIFY(way.card);
        QCOMPARE(way.steps(), 5);
        QCOMPARE(way.card->decisions, 0);
        QCOMPARE(way.card->longest_without_choice, 5);
        QCOMPARE(way.card->shortest_ways, 1.0);
        // A crate in the corridor, pushed aside into a niche or on: after the first push there is no other
        // way.
        for (const char* name : {"pallet-shift-1", "pallet-shift-2", "pallet-shift-3"}) {
            const solve::Answer answer = solved(demo_puzzle(name));
            QVERIFY(answer.card && answer.card->shortest_ways >= 1);
            QVERIFY(answer.card->decisions >= 0 && answer.card->decisions <= answer.steps());
            QVERIFY(answer.card->longest_without_choice <= answer.steps());
        }
    }

    void bands_by_cells_count_what_comes_before() {
        // Two doors one behind the other, each with a key before it.
        const auto door = [](const char* key, const Vec3& at) {
            return with_value(Element{"door", at, 0, {}}, "key", std::string(key));
        };
        const auto key = [](const char* kind, const Vec3& at) {
            return with_value(Element{"key", at, 0, {}}, "kind", std::string(kind));
        };
        const Level level =
            cells({"###########", "#.........#", "###########"}, {{"s", {"start", {1.5, 1.5, 0}, 0, {}}},
                                                                  {"k1", key("brass", {2.5, 1.5, 0})},
                                                                  {"d1", door("brass", {4.5, 1.5, 0})},
                                                                  {"k2", key("zinc", {5.5, 1.5, 0})},
                                                                  {"d2", door("zinc", {7.5, 1.5, 0})},
                                                                  {"g", {"goal", {9.5, 1.5, 0}, 0, {}}}});
        const check::CheckResult result = check::check_level({}, level);
        QVERIFY(result.bands && result.bands->count() >= 3);
        const auto band_at = [&](double x) {
            const int f = check::fragment_of_cell(*result.ground, {x, 1.5});
            return result.bands->of_ledge[size_t(result.ground->fragments[size_t(f)].ledge)];
        };
        QCOMPARE(band_at(1.5), 0);
        QVERIFY(band_at(5.5) > band_at(1.5));
        QVERIFY(band_at(8.5) > band_at(5.5));
    }
};

RUBBLE_TEST(PuzzleMendsTest)
#include "puzzle_mends_test.moc"
