#include <QtTest/QtTest>

#include <map>

#include "core/random.h"
#include "core/tile_level.h"
#include "level/diff.h"
#include "level/tiles/tile_layer.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

/// Cells in chunks that copies share.
class TilesTest : public QObject {
    Q_OBJECT

private slots:
    void a_cell_is_what_was_put_and_how_it_lies() {
        const Tile tile(7, true, 3);
        QCOMPARE(tile.number(), 7);
        QVERIFY(tile.mirrored() && tile.turns() == 3 && !tile.empty());
        QVERIFY(Tile().empty() && Tile().number() == -1 && Tile(-1) == Tile());
        QCOMPARE(sizeof(Tile), size_t(4));
        QVERIFY(tile.turned(1) == Tile(7, true, 0));
        // Mirrored twice, and turned round once, it lies as before; mirroring turns the other way round.
        for (int turns = 0; turns < 4; ++turns) {
            const Tile lying(3, turns % 2 == 1, turns);
            QVERIFY(lying.flipped().flipped() == lying);
            QVERIFY(lying.turned(1).turned(3) == lying);
            const Vec2 corner(0.25, 0.5), mirrored = placed(lying.flipped(), corner),
                                          plain = placed(lying, corner);
            QVERIFY(glm::length(mirrored - Vec2(1 - plain.x, plain.y)) < 1e-12);
        }
    }

    void any_row_of_changes_gives_the_cells_that_were_put() {
        Random random(41);
        TileGrid grid;
        std::map<CellAt, Tile> expected;
        for (int round = 0; round < test::rounds(200); ++round) {
            std::vector<TileGrid::Change> changes;
            for (int i = random.whole(1, 40); i-- > 0;) {
                const CellAt at{random.whole(-70, 70), random.whole(-70, 70)};
                const Tile tile = random.chance(0.3)
                                      ? Tile()
                                      : Tile(random.whole(0, 99), random.chance(0.5), random.whole(0, 3));
                changes.push_back({at, tile});
                expected[at] = tile;
            }
            grid = grid.with(changes);
        }
        int found = 0, wanted = 0;
        for (const auto& [at, tile] : expected) {
            QVERIFY(grid.at(at) == tile);
            wanted += !tile.empty();
            if (!tile.empty()) QVERIFY(grid.area().contains(at));
        }
        CellAt last{0, -1000};
        grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
            ++found;
            QVERIFY(expected.at(at) == tile);
            QVERIFY(std::pair(at.row, at.column) > std::pair(last.row, last.column)); // row by row
            last = at;
        });
        QCOMPARE(found, wanted);
    }

    void an_edit_copies_the_chunk_it_touches_and_no_other() {
        TileGridMaker maker;
        for (int row = 0; row < 128; ++row) maker.put_run({0, row}, 128, Tile(1));
        const TileGrid before = maker.finished();
        const TileGrid::Change change{{40, 70}, Tile(2)};
        const TileGrid after = before.with(std::span(&change, 1));
        int changed = 0, same = 0;
        after.for_each_chunk([&](int column, int row, const Shared<TileGrid::Chunk>& chunk) {
            (before.chunk(column, row)->is(chunk) ? same : changed)++;
        });
        QCOMPARE(changed, 1);
        QCOMPARE(same, 15);
        int told = 0;
        TileGrid::for_each_changed_chunk(before, after, [&](const TileBox& box) {
            QVERIFY(box.contains({40, 70}));
            ++told;
        });
        QCOMPARE(told, 1);
        // Taken back, the value is what it was.
        const TileGrid::Change back{{40, 70}, Tile(1)};
        QVERIFY(after.with(std::span(&back, 1)) == before);
    }

    void cells_lie_where_their_frame_puts_them() {
        TileLayer layer;
        layer.cell_m = 0.5, layer.origin = {1, 2, 3};
        QCOMPARE(place_of(layer, Frame::side, {0, 0}, {0, 1}), Vec3(1, 2, 3));
        QCOMPARE(place_of(layer, Frame::side, {2, 1}, {0, 0}), Vec3(2, 2, 2));
        QCOMPARE(place_of(layer, Frame::plan, {2, 1}, {0, 0}), Vec3(2, 1, 3));
        Random random(42);
        for (int i = 0; i < 500; ++i)
            for (const Frame frame : {Frame::side, Frame::plan}) {
                const CellAt cell{random.whole(-99, 99), random.whole(-99, 99)};
                const Vec2 in(random.between(0.01, 0.99), random.between(0.01, 0.99));
                QVERIFY(cell_at(layer, frame, place_of(layer, frame, cell, in)) == cell);
            }
    }

    void placed_pictures_go_where_transforms_bring_them() {
        Random random(7);
        for (int i = 0; i < 300; ++i) {
            PlacedPicture picture;
            picture.upright = random.whole(0, 1) == 1;
            picture.at = {random.between(-9, 9), random.between(-9, 9), random.between(-9, 9)};
            picture.size = {random.between(0.1, 5), random.between(0.1, 5)};
            picture.turn_deg = random.between(-180, 180);
            picture.mirrored = random.whole(0, 1) == 1;
            const Frame frame = picture.upright ? Frame::side : Frame::plan;
            const Vec3 about(random.between(-5, 5), random.between(-5, 5), random.between(-5, 5));
            const Transform ways[] = {Transform::moving(about),
                                      Transform::turning(about, random.between(-170, 170), turn_axis(frame)),
                                      Transform::mirroring({0, about.x}), Transform::scaling(about, 1.7)};
            for (const Transform& way : ways) {
                // What is drawn at a corner of the picture goes where that corner goes.
                const PlacedPicture after = transformed(picture, way);
                const auto drawn = [](const PlacedPicture& one, Vec2 of_tile) {
                    const PictureSides sides = sides_of(one);
                    return sides.corner + sides.right * (one.mirrored ? 1 - of_tile.x : of_tile.x) +
                           sides.up * of_tile.y;
                };
                for (const Vec2 corner : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)})
                    QVERIFY(glm::distance(drawn(after, corner), way.applied_to(drawn(picture, corner))) <
                            1e-9);
                QVERIFY(problem_of(after).empty());
            }
            const Vec3 part(random.between(0, 1), random.between(0, 1), 0);
            QVERIFY(glm::distance(part_at(picture, *place_of_part(picture, part)).value(), part) < 1e-9);
        }
    }

    void what_is_painted_is_told_from_how_layers_are() {
        const Level level = test::tile_level({"##"}, 1);
        Level painted = level;
        TileLayer tiles = **level.layers[0]->tiles;
        const TileGrid::Change change{{0, 0}, Tile()};
        tiles.grid = tiles.grid.with(std::span(&change, 1));
        Layer layer = *level.layers[0];
        layer.tiles = Shared<TileLayer>(tiles);
        painted.layers[0] = Shared<Layer>(layer);
        const Diff diff = difference(level, painted);
        QVERIFY(diff.painted == std::set<LayerId>{{"ground"}} && !diff.layers);
        tiles.depth = 4;
        layer.tiles = Shared<TileLayer>(tiles);
        painted.layers[0] = Shared<Layer>(layer);
        QVERIFY(difference(level, painted).layers);
    }
};

RUBBLE_TEST(TilesTest)
#include "tiles_test.moc"
