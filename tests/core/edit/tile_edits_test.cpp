#include <QtTest/QtTest>

#include <queue>
#include <set>

#include "core/random.h"
#include "core/tile_level.h"
#include "edit/edging.h"
#include "edit/items.h"
#include "edit/layer_scheme.h"
#include "edit/layers.h"
#include "edit/tile_mix.h"
#include "edit/tiles.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::Random;

/// Strokes over layers of tiles.
class TileEditsTest : public QObject {
    Q_OBJECT

    /// A set with another tile for every case.
    static Edging whole_set(bool corners) {
        Edging edging;
        int number = 100;
        for (const GroundAround around : edging_cases(corners)) edging.tiles[around] = number++;
        return edging;
    }

private slots:
    void lines_touch_from_end_to_end() {
        Random random(91);
        for (int i = 0; i < 500; ++i) {
            const CellAt a{random.whole(-30, 30), random.whole(-30, 30)},
                b{random.whole(-30, 30), random.whole(-30, 30)};
            const auto cells = cells_on_line(a, b);
            QVERIFY(cells.front() == a && cells.back() == b);
            QCOMPARE(int(cells.size()), std::max(std::abs(a.column - b.column), std::abs(a.row - b.row)) + 1);
            for (size_t k = 1; k < cells.size(); ++k)
                QVERIFY(std::max(std::abs(cells[k].column - cells[k - 1].column),
                                 std::abs(cells[k].row - cells[k - 1].row)) == 1);
        }
    }

    void ellipses_are_even_and_fill_their_box() {
        for (int columns = 1; columns < 24; ++columns)
            for (int rows = 1; rows < 24; ++rows) {
                const TileBox box{{0, 0}, {columns, rows}};
                const auto cells = cells_in_ellipse(box, true);
                TileBox around;
                std::set<CellAt> all(cells.begin(), cells.end());
                for (const CellAt& cell : cells) {
                    around.add(rubble::box_of(cell));
                    QVERIFY(all.contains({columns - 1 - cell.column, rows - 1 - cell.row}));
                }
                if (columns > 2 && rows > 2) QVERIFY(around == box);
                QVERIFY(cells_in_ellipse(box, false).size() <= cells.size());
            }
    }

    void filling_is_the_flood_fill() {
        Random random(92);
        for (int round = 0; round < test::rounds(100); ++round) {
            const int columns = random.whole(1, 80), rows = random.whole(1, 50);
            TileGridMaker maker;
            for (int row = 0; row < rows; ++row)
                for (int column = 0; column < columns; ++column)
                    if (random.chance(0.45)) maker.put({column, row}, Tile(random.whole(0, 1)));
            const TileGrid grid = maker.finished({{0, 0}, {columns, rows}});
            const CellAt begin{random.whole(0, columns - 1), random.whole(0, rows - 1)};
            std::set<CellAt> expected{begin}, found;
            std::queue<CellAt> open;
            open.push(begin);
            while (!open.empty()) {
                const CellAt at = open.front();
                open.pop();
                for (const CellAt by : {CellAt{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const CellAt next{at.column + by.column, at.row + by.row};
                    if (grid.area().contains(next) && grid.at(next) == grid.at(begin) &&
                        expected.insert(next).second)
                        open.push(next);
                }
            }
            for (const TileRun& run : area_around(grid, begin))
                for (CellAt cell = run.from; cell.column < run.to; ++cell.column)
                    QVERIFY(found.insert(cell).second); // each once
            QVERIFY(found == expected);
            const TileGrid after = filled(grid, Stamp{1, 1, {Tile(7)}}, area_around(grid, begin), begin);
            for (int row = 0; row < rows; ++row)
                for (int column = 0; column < columns; ++column)
                    QVERIFY(after.at({column, row}) ==
                            (found.contains({column, row}) ? Tile(7) : grid.at({column, row})));
        }
        QVERIFY(area_around(TileGrid{}, {0, 0}).empty());
    }

    void stamps_turn_round_and_mirror_back() {
        Random random(93);
        for (int round = 0; round < 100; ++round) {
            Stamp stamp{random.whole(1, 5), random.whole(1, 5), {}};
            for (int i = 0; i < stamp.columns * stamp.rows; ++i)
                stamp.tiles.push_back(random.chance(0.2)
                                          ? Tile()
                                          : Tile(random.whole(0, 9), random.chance(0.5), random.whole(0, 3)));
            QVERIFY(turned(turned(stamp, 1), 3) == stamp);
            QVERIFY(turned(stamp, 4) == stamp);
            QVERIFY(mirrored(mirrored(stamp)) == stamp);
            QVERIFY(mirrored(turned(stamp, 1)) == turned(mirrored(stamp), 3));
            QCOMPARE(turned(stamp, 1).columns, stamp.rows);
        }
    }

    void a_block_is_laid_and_picked_up_again() {
        const Stamp block{2, 2, {Tile(1), Tile(), Tile(3), Tile(4)}};
        Level level = test::tile_level({"####", "####", "####"});
        const CellAt at{1, 1};
        level = with_tiles(level, {"ground"}, stamped(block, std::array{at}));
        const TileGrid& grid = tile_layer(level, {"ground"})->grid;
        QCOMPARE(grid.at({1, 1}).number(), 1);
        QCOMPARE(grid.at({2, 1}).number(), 0); // an empty cell of a block leaves what is there
        QCOMPARE(grid.at({1, 2}).number(), 3);
        const Stamp again = stamp_of(grid, {{1, 1}, {3, 3}});
        QVERIFY(again.at(0, 0) == Tile(1) && again.at(1, 0) == Tile(0));
        QVERIFY(with_tiles(level, {"nothing"}, {}) == level);
    }

    void there_are_47_cases_and_16_without_corners() {
        QCOMPARE(edging_cases(true).size(), size_t(47));
        QCOMPARE(edging_cases(false).size(), size_t(16));
        QCOMPARE(int(edging_cases(true)[0].bits()), 255);
        QVERIFY(GroundAround(GroundAround::upper_right | GroundAround::right) ==
                GroundAround(GroundAround::right));
    }

    void what_a_set_lacks_is_named_and_filled_with_the_nearest() {
        Edging edging = whole_set(false);
        QVERIFY(missing_cases(edging).empty());
        QCOMPARE(tile_for(edging, GroundAround(255)),
                 tile_for(edging, GroundAround(255 - GroundAround::upper_left)));
        edging.tiles.erase(GroundAround(GroundAround::right).without_corners());
        QCOMPARE(missing_cases(edging).size(), size_t(1));
        QVERIFY(tile_for(edging, GroundAround(GroundAround::right)) >= 0);
        QCOMPARE(tile_for(Edging{}, GroundAround(255)), -1);
    }

    void painted_areas_choose_their_tiles_whatever_the_order_of_strokes() {
        Random random(94);
        for (const bool corners : {true, false}) {
            const Edging edging = whole_set(corners);
            TileGrid grid;
            std::set<CellAt> ground;
            for (int stroke = 0; stroke < test::rounds(80); ++stroke) {
                std::vector<CellAt> cells;
                const CellAt low{random.whole(-20, 20), random.whole(-20, 20)};
                const int columns = random.whole(1, 8), rows = random.whole(1, 8);
                for (int row = 0; row < rows; ++row)
                    for (int column = 0; column < columns; ++column)
                        cells.push_back({low.column + column, low.row + row});
                const bool put = random.chance(0.6);
                grid = with_ground(grid, edging, cells, put);
                for (const CellAt& cell : cells) put ? void(ground.insert(cell)) : void(ground.erase(cell));
            }
            for (int row = -30; row < 30; ++row)
                for (int column = -30; column < 30; ++column) {
                    const CellAt at{column, row};
                    const Tile tile = grid.at(at);
                    QCOMPARE(!tile.empty(), ground.contains(at));
                    if (tile.empty()) continue;
                    uint8_t bits = 0;
                    int k = 0;
                    for (const CellAt by :
                         {CellAt{1, 0}, {1, -1}, {0, -1}, {-1, -1}, {-1, 0}, {-1, 1}, {0, 1}, {1, 1}})
                        bits |= uint8_t(ground.contains({column + by.column, row + by.row}) << k++);
                    const GroundAround around =
                        corners ? GroundAround(bits) : GroundAround(bits).without_corners();
                    QCOMPARE(tile.number(), edging.tiles.at(around));
                }
            QVERIFY(edged_anew(grid, edging, false) == grid);
        }
    }

    void tiles_placed_by_hand_stay_until_they_are_released() {
        const Edging edging = whole_set(true);
        std::vector<CellAt> cells;
        for (int row = 0; row < 5; ++row)
            for (int column = 0; column < 5; ++column) cells.push_back({column, row});
        TileGrid grid = with_ground({}, edging, cells, true);
        const int other = edging.tiles.at(GroundAround(0));
        const TileGrid::Change by_hand{{2, 0}, Tile(other, false, 0, true)};
        grid = grid.with(std::span(&by_hand, 1));
        const CellAt beside{2, -1};
        grid = with_ground(grid, edging, std::span(&beside, 1), true);
        QCOMPARE(grid.at({2, 0}).number(), other);
        QCOMPARE(edged_anew(grid, edging, false).at({2, 0}).number(), other);
        QCOMPARE(edged_anew(grid, edging, true).at({2, 0}).number(),
                 edging.tiles.at(around_cell(grid, edging, {2, 0})));
    }

    void collision_cells_are_clothed_with_art_of_half_their_size() {
        const Edging edging = whole_set(true);
        const Level level = test::tile_level({"#  ", "## ", "   "}, 1);
        TileLayer art;
        art.cell_m = 0.5, art.origin = {0, 0, 3};
        const TileGrid::Change other{{5, 0}, Tile(500)};
        art.grid = art.grid.with(std::span(&other, 1));
        const TileLayer made = clothed(art, *tile_layer(level, {"ground"}), Frame::side, edging);
        QVERIFY(made.grid.at({5, 0}) == Tile(500)); // not of the ground
        int count = 0;
        made.grid.for_each_tile(made.grid.area(),
                                [&](CellAt, Tile tile) { count += edging.holds(tile.number()); });
        QCOMPARE(count, 12);
        QCOMPARE(made.grid.at({0, 2}).number(),
                 edging.tiles.at(GroundAround(255 - GroundAround::left - GroundAround::upper_left -
                                              GroundAround::lower_left)));
        // Once more it changes nothing; where the cells are gone, so is what clothed them.
        QVERIFY(clothed(made, *tile_layer(level, {"ground"}), Frame::side, edging).grid == made.grid);
        const Level less = test::tile_level({"   ", " # ", "   "}, 1);
        const TileLayer again = clothed(made, *tile_layer(less, {"ground"}), Frame::side, edging);
        QVERIFY(again.grid.at({0, 2}).empty() && !again.grid.at({2, 2}).empty());
    }

    void slopes_and_decks_are_clothed_with_what_collides_alike() {
        // A sheet of half the size, with a slope, a gentle one in two parts, and a deck.
        TileSheet art_sheet = *test::grey();
        const Edging edging{"Ground", {{GroundAround(255), 0}}};
        art_sheet.edgings = {edging};
        art_sheet.tiles[14].outline = {{0, 0.5}, {1, 0.5}, {1, 1}, {0, 1}};
        art_sheet.tiles.erase(6); // a slope down is the other mirrored
        const Level level = test::tile_level({"  -  ", " / \\ ", "#####"}, 1);
        TileLayer art;
        art.cell_m = 0.5, art.origin = {0, 0, 3};
        art.sheet = std::make_shared<const TileSheet>(art_sheet);
        const TileLayer made = clothed(art, *tile_layer(level, {"ground"}), Frame::side, edging);
        const auto at = [&](double x, double z) {
            return made.grid.at(cell_at(made, Frame::side, {x, 0, z}));
        };
        QVERIFY(at(1.25, 1.25) == Tile(5) && at(1.75, 1.75) == Tile(5)); // the slope's line
        QVERIFY(at(1.25, 1.75).empty());
        QVERIFY(at(1.75, 1.25) == Tile(0)); // under it
        QVERIFY(at(3.25, 1.75) == Tile(5, true) && at(3.75, 1.25) == Tile(5, true));
        QCOMPARE(at(2.25, 2.75).number(), 14);
        QVERIFY(at(2.25, 2.25).empty());
        QVERIFY(clothed(made, *tile_layer(level, {"ground"}), Frame::side, edging).grid == made.grid);
    }

    void a_mix_comes_as_often_as_its_weights_say() {
        TileMix mix{{{Tile(1), 3}, {Tile(2), 1}, {Tile(3), 0}}};
        std::map<int, int> counts;
        for (int row = 0; row < 100; ++row)
            for (int column = 0; column < 100; ++column)
                ++counts[mix.at({column - 50, row - 50}, 7).number()];
        QVERIFY(std::abs(counts[1] - 7500) < 200 && std::abs(counts[2] - 2500) < 200);
        QCOMPARE(counts[3], 0);
        QVERIFY(mix.at({3, 4}, 7) == mix.at({3, 4}, 7));
        QVERIFY(TileMix{}.at({0, 0}, 1).empty());
        const std::vector<CellAt> cells{{0, 0}, {1, 0}};
        QCOMPARE(strewn(mix, cells, 1).size(), size_t(2));
        QVERIFY(strewn(TileMix{{{Tile(1), 0}}}, cells, 1).empty());
    }

    void a_scheme_of_layers_is_taken_over_after_saying_what_changes() {
        const Level level = test::tile_level({"##", "##"}, 1);
        Project project = with_scheme_from({}, level);
        QCOMPARE(project.scheme.size(), size_t(1));
        QVERIFY(scheme_changes(project, level).empty());
        project.scheme[0].depth = 3, project.scheme[0].name = "Soil";
        SchemeLayer behind{{"behind"}, "Behind", Frame::side, 0.25, false, 9, 0.5, Vec2(0.5, 1)};
        project.scheme.insert(project.scheme.begin(), behind);
        project.scheme.push_back({{"plan"}, "Of plans", Frame::plan, 1, true, 0, 1, Vec2(1)});
        const auto changes = scheme_changes(project, level);
        QCOMPARE(changes.size(), size_t(3)); // comes, name, depth; nothing of the other frame
        const Level after = with_scheme_of(project, level);
        QVERIFY(scheme_changes(project, after).empty());
        QCOMPARE(after.layers.size(), level.layers.size() + 1);
        QCOMPARE(after.layers[0]->id, LayerId{"behind"});
        QVERIFY(tile_layer(after, {"ground"})->grid == tile_layer(level, {"ground"})->grid);
        QCOMPARE(tile_layer(after, {"ground"})->depth, 3.0);
        QVERIFY(with_scheme_of(project, after) == after);
    }

    void a_layer_dragged_elsewhere_is_drawn_there() {
        Level level = test::tile_level({"##"}, 1);
        Layer art = *level.layers[0];
        TileLayer tiles = **art.tiles;
        tiles.depth = 5;
        art.id = {"art"}, art.tiles = Shared<TileLayer>(tiles);
        level.layers.insert(level.layers.begin(), Shared<Layer>(art)); // art, ground, play
        const Level moved = with_layer_at(level, {"art"}, 1);
        QCOMPARE(moved.layers[1]->id, LayerId{"art"});
        QCOMPARE(tile_layer(moved, {"art"})->depth, 0.0); // no deeper than what it lies before now
        const Level back = with_layer_at(level, {"ground"}, 0);
        QCOMPARE(tile_layer(back, {"ground"})->depth, 5.0);
        QVERIFY(with_layer_at(level, {"nowhere"}, 0) == level);
    }

    void all_wall_leaves_room_for_what_stands_there() {
        const Level level = test::with_element(test::tile_level({"####", "#  #", "####"}, 1, Frame::plan),
                                               "s", "start", {1.5, 1.5, 0});
        const Level wall = all_wall(level);
        const TileLayer& tiles = *tile_layer(wall, {"ground"});
        QVERIFY(tiles.grid.at(cell_at(tiles, Frame::plan, {1.5, 1.5, 0})).empty());
        QVERIFY(!tiles.grid.at(cell_at(tiles, Frame::plan, {2.5, 1.5, 0})).empty());
    }

    void items_never_land_in_a_layer_of_tiles() {
        Level level = test::with_element(test::tile_level({"##"}), "start", "start", {0, 0, 1});
        const ItemId start{"start"};
        QVERIFY(sent_to_layer(level, std::span(&start, 1), {"ground"}) == level);
        const Item more{{"more"}, {}, false, Element{"goal", {1, 0, 1}, 0, {}}, {}};
        const Level added = with_item(level, 0, more);
        QVERIFY(added.layers[0]->items.empty());
        QCOMPARE(added.layers[1]->items.size(), size_t(2));
        level.layers.pop_back(); // no other layer is left
        const Level made = with_item(level, 0, more);
        QCOMPARE(made.layers.size(), size_t(2));
        QVERIFY(find_item(made, {"more"}) && made.layers[0]->items.empty());
    }

    void replacing_keeps_how_tiles_lie() {
        TileGridMaker maker;
        maker.put({0, 0}, Tile(3, true, 2)), maker.put({5, 5}, Tile(3)), maker.put({6, 6}, Tile(4));
        const TileGrid grid = maker.finished();
        const TileGrid after = grid.with(replaced(grid, 3, 9));
        QVERIFY(after.at({0, 0}) == Tile(9, true, 2) && after.at({5, 5}) == Tile(9) &&
                after.at({6, 6}) == Tile(4));
    }
};

RUBBLE_TEST(TileEditsTest)
#include "tile_edits_test.moc"
