#include <QtTest/QtTest>

#include "check/check.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "edit/sheet_collision.h"
#include "edit/tiles.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::tile_level;
using test::with_element;

namespace {

std::vector<Finding> found(const Level& level, RuleId rule) {
    CheckOptions options;
    options.explain = false;
    std::vector<Finding> out;
    for (const Finding& finding : check_level({}, level, options).findings)
        if (finding.rule == rule) out.push_back(finding);
    return out;
}

Level with_layer_tiles(Level level, size_t layer, const TileLayer& tiles) {
    Layer changed = *level.layers[layer];
    changed.tiles = Shared<TileLayer>(tiles);
    level.layers[layer] = Shared<Layer>(changed);
    return level;
}

const TileLayer& tiles_of(const Level& level) { return **level.layers[0]->tiles; }

/// The level with another sheet, of which one tile is changed.
template <class Change> Level with_tile(const Level& level, int number, Change change) {
    TileSheet sheet = *tiles_of(level).sheet;
    change(sheet.tiles[number]);
    TileLayer tiles = tiles_of(level);
    tiles.sheet = std::make_shared<const TileSheet>(sheet);
    return with_layer_tiles(level, 0, tiles);
}

const std::vector<std::string> k_ground{"          ", "          ", "##########"};

Level started(const std::vector<std::string>& rows, double cell_m = 1) {
    return with_element(tile_level(rows, cell_m), "s", "start", {1.5, 0, cell_m});
}

/// The near miss between start and goal, with its mends.
std::vector<Mend> mends_of(const Level& level) {
    CheckOptions options;
    const CheckResult result = check_level({}, level, options);
    return result.near_misses.empty() ? std::vector<Mend>{} : result.near_misses[0].mends;
}

/// Mends that paint cells, each of which must make the goal reached.
int painting_mends_that_work(const Level& level) {
    int count = 0;
    for (const Mend& mend : mends_of(level)) {
        if (mend.cells.empty()) continue;
        CheckOptions options;
        const CheckResult after = check_level({}, mended(level, mend), options);
        for (const Place& place : after.places)
            if (place.item == ItemId{"g"} && place.reached == Reached::yes) ++count;
    }
    return count;
}

} // namespace

/// What the rules of tiles find, and what mends paint.
class TileRulesTest : public QObject {
    Q_OBJECT
private slots:
    void a_start_over_art_that_is_not_solid() {
        Level level = started(k_ground);
        QVERIFY(found(level, RuleId::start_not_solid).empty());
        TileLayer tiles = tiles_of(level);
        tiles.solid = false;
        level = with_layer_tiles(level, 0, tiles);
        QCOMPARE(found(level, RuleId::start_not_solid).size(), size_t(1));
        QVERIFY(found(level, RuleId::start_over_nothing).empty()); // it is said once
    }

    void tiles_that_look_otherwise_than_they_collide() {
        const Level level = started(k_ground);
        QVERIFY(found(level, RuleId::seems_solid).empty());
        QVERIFY(found(level, RuleId::seems_open).empty());
        const Level open = with_tile(level, 0, [](SheetTile& tile) { tile.collision = TileCollision::none; });
        QCOMPARE(found(open, RuleId::seems_solid).size(), size_t(1));
        // A slope that keeps the character out of all of its cell.
        const Level full =
            with_tile(started({"          ", "    /     ", "##########"}), 5, [](SheetTile& tile) {
                tile.collision = TileCollision::outline;
                tile.outline = {{0, 0.5}, {0.5, 1}, {0, 1}};
            });
        QCOMPARE(found(full, RuleId::seems_open).size(), size_t(1));
        QCOMPARE(found(full, RuleId::seems_solid).size(), size_t(1));
    }

    void outlines_on_a_slope_that_do_not_meet() {
        const std::vector<std::string> rows{"          ", "   ab     ", "##########"};
        QVERIFY(found(started(rows), RuleId::outline_lip).empty());
        const Level lip = with_tile(started(rows), 9, [](SheetTile& tile) {
            tile.outline = {{0, 0}, {1, 0}, {1, 1}, {0, 0.7}}; // the one before ends at a half
        });
        const auto findings = found(lip, RuleId::outline_lip);
        QCOMPARE(findings.size(), size_t(1));
        QVERIFY(std::abs(findings[0].at.x - 4) < 1e-6);
    }

    void narrow_gaps_between_outlines() {
        const std::vector<std::string> rows{"          ", "   3#     ", "##########"};
        QVERIFY(found(started({"          ", "   ##     ", "##########"}), RuleId::outline_sliver).empty());
        TileLayer tiles = tiles_of(started(rows));
        const std::array changes{TileGrid::Change{{3, 1}, Tile(3)}, TileGrid::Change{{4, 1}, Tile(0)}};
        tiles.grid = tiles.grid.with(changes);
        const Level level = with_tile(with_layer_tiles(started(rows), 0, tiles), 3, [](SheetTile& tile) {
            tile.outline = {{0, 0}, {0.9, 0}, {0.9, 1}, {0, 1}};
        });
        QCOMPARE(found(level, RuleId::outline_sliver).size(), size_t(1));
    }

    void numbers_and_sheets_that_are_gone() {
        Level level = started(k_ground);
        TileLayer tiles = tiles_of(level);
        const TileGrid::Change unknown{{4, 2}, Tile(900)};
        tiles.grid = tiles.grid.with(std::span(&unknown, 1));
        QCOMPARE(found(with_layer_tiles(level, 0, tiles), RuleId::unknown_tile).size(), size_t(1));
        tiles.sheet = nullptr;
        tiles.sheet_file.clear(); // plain cells: nothing is missing
        QVERIFY(found(with_layer_tiles(level, 0, tiles), RuleId::sheet_missing).empty());
        tiles.sheet_file = "sheets/gone.sheet.json";
        QCOMPARE(found(with_layer_tiles(level, 0, tiles), RuleId::sheet_missing).size(), size_t(1));
        QVERIFY(found(level, RuleId::sheet_missing).empty());
    }

    void a_layer_in_front_that_hides() {
        Level level = started(k_ground);
        Layer front = *tile_level({"          ", "   ####   ", "          "}, 1).layers[0];
        TileLayer tiles = **front.tiles;
        tiles.solid = false, tiles.depth = -1;
        front.id = {"front"}, front.name = "Front", front.tiles = Shared<TileLayer>(tiles);
        level.layers.push_back(front);
        QCOMPARE(found(level, RuleId::layer_hides).size(), size_t(1));
        tiles.opacity = 0.4;
        QVERIFY(found(with_layer_tiles(level, level.layers.size() - 1, tiles), RuleId::layer_hides).empty());
        tiles.opacity = 1, tiles.depth = 1;
        QVERIFY(found(with_layer_tiles(level, level.layers.size() - 1, tiles), RuleId::layer_hides).empty());
    }

    void a_ceiling_that_keeps_from_a_jump() {
        std::vector<std::string> rows(6, std::string(20, ' '));
        rows[5] = "########    ########";
        const auto low_jumps = [](const std::vector<std::string>& drawn) {
            Level level = with_element(tile_level(drawn, 1), "s", "start", {2, 0, 1});
            level = with_element(level, "g", "goal", {17, 0, 1});
            CheckOptions options;
            options.mends = false;
            int count = 0;
            for (const Finding& finding : check_level({}, level, options).findings)
                count += finding.rule == RuleId::walk_low_jump;
            return count;
        };
        QCOMPARE(low_jumps(rows), 0);     // the jump works
        rows[2] = "      #######       "; // two metres over the ground
        QCOMPARE(low_jumps(rows), 1);
        rows[5] = "########        ####"; // too wide under any ceiling
        QCOMPARE(low_jumps(rows), 0);
    }

    void decks_are_no_ceilings() {
        const std::vector<std::string> rows{"          ", "   --     ", "          ", "##########"};
        // 1.75 m of room under the deck, 0.05 less than the figure needs.
        QVERIFY(
            found(with_element(tile_level(rows, 1), "s", "start", {1, 0, 1}), RuleId::walk_headroom).empty());
    }

    void gaps_and_walls_are_mended_with_cells() {
        Level gap = tile_level({"##########       ##########", "##########       ##########"}, 1);
        gap = with_element(gap, "s", "start", {2, 0, 2});
        gap = with_element(gap, "g", "goal", {24, 0, 2});
        QVERIFY(painting_mends_that_work(gap) >= 2);
        std::vector<std::string> rows(4, std::string(12, ' ') + std::string(8, '#'));
        rows[3] = std::string(20, '#');
        Level wall = with_element(tile_level(rows, 0.5), "s", "start", {2, 0, 0.5});
        wall = with_element(wall, "g", "goal", {8, 0, 2});
        QVERIFY(painting_mends_that_work(wall) >= 1);
    }

    void what_is_in_the_way_is_cleared() {
        // A duct that is half a metre too low, and a passage seen from above that is too narrow.
        Level duct = tile_level({"                ", "    #######     ", "    #######     ",
                                 "    #######     ", "                ", "################"},
                                0.8);
        duct = with_element(duct, "s", "start", {1.5, 0, 0.8});
        duct = with_element(duct, "g", "goal", {12, 0, 0.8});
        QVERIFY(painting_mends_that_work(duct) >= 1);
        Level maze =
            tile_level({"########", "#      #", "####_###", "#      #", "########"}, 0.8, Frame::plan);
        maze = with_element(maze, "s", "start", {1.5, 1.2, 0});
        maze = with_element(maze, "g", "goal", {5, 2.8, 0});
        QVERIFY(painting_mends_that_work(maze) >= 1);
    }
};

RUBBLE_TEST(TileRulesTest)
#include "tile_rules_test.moc"
