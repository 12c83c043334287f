#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::build;
using test::Random;

namespace {

double area_of(const TilePrism& p) {
    return (p.right - p.left) * ((p.high_left - p.low_left) + (p.high_right - p.low_right)) / 2;
}

bool contains(const TilePrism& p, Vec2 at) {
    if (at.x < p.left || at.x > p.right) return false;
    const double t = (at.x - p.left) / (p.right - p.left);
    return at.y >= p.low_left + (p.low_right - p.low_left) * t &&
           at.y <= p.high_left + (p.high_right - p.high_left) * t;
}

/// Whether a place lies in the outline of the tile there, by the crossing rule; the truth the builder is
/// compared with.
bool in_tile(const TileLayer& layer, Vec2 at, TileMatterKind kind) {
    const CellAt cell = cell_at(layer, Frame::side, {at.x, 0, at.y});
    const Tile tile = layer.grid.at(cell);
    if (tile.empty()) return false;
    const SheetTile& own = *layer.sheet->tile(tile.number());
    const TileMatterKind is = own.acts == TileActs::deadly              ? TileMatterKind::deadly
                              : own.collision == TileCollision::one_way ? TileMatterKind::one_way
                                                                        : TileMatterKind::solid;
    if (is != kind) return false;
    const Vec3 low = place_of(layer, Frame::side, cell, {0, 0});
    const Vec2 p = (at - Vec2(low.x, low.z)) / layer.cell_m;
    bool in = false;
    std::vector<Vec2> outline = collision_outline(layer.sheet.get(), tile.number());
    for (Vec2& q : outline) q = placed(tile, q);
    for (size_t i = 0, k = outline.size() - 1; i < outline.size(); k = i++)
        if ((outline[i].y > p.y) != (outline[k].y > p.y) &&
            p.x < (outline[k].x - outline[i].x) * (p.y - outline[i].y) / (outline[k].y - outline[i].y) +
                      outline[i].x)
            in = !in;
    return in;
}

Level random_tiles(Random& random, int columns, int rows) {
    const std::string letters = "####//\\\\__abcds-^      ";
    std::vector<std::string> drawing;
    for (int row = 0; row < rows; ++row) {
        std::string line;
        for (int column = 0; column < columns; ++column)
            line += letters[size_t(random.whole(0, int(letters.size()) - 1))];
        drawing.push_back(line);
    }
    return test::tile_level(drawing);
}

TileMatterBuilder::Strips strips_of(const Level& level) { return TileMatterBuilder().build(level); }

size_t prisms_in(const TileMatterBuilder::Strips& strips) {
    size_t count = 0;
    for (const auto& strip : strips) count += strip->prisms.size();
    return count;
}

/// Hills with a few hollows: what grounds of levels are like.
Level terrain(Random& random, int columns, int rows) {
    std::vector<std::string> drawing(size_t(rows), std::string(size_t(columns), ' '));
    int height = rows / 2, until = 0;
    for (int column = 0; column < columns; ++column) {
        if (until-- <= 0) {
            height = std::clamp(height + random.whole(-4, 4), rows / 4, rows * 3 / 4);
            until = random.whole(3, 12);
        }
        for (int row = rows - height; row < rows; ++row) drawing[size_t(row)][size_t(column)] = '#';
    }
    for (int i = 0; i < columns / 10; ++i) {
        const int left = random.whole(0, columns - 12), top = random.whole(rows / 2, rows - 8);
        for (int row = top; row < top + random.whole(2, 5); ++row)
            for (int column = left; column < left + 9; ++column) drawing[size_t(row)][size_t(column)] = ' ';
    }
    return test::tile_level(drawing);
}

} // namespace

/// Tiles as matter.
class TileMatterTest : public QObject {
    Q_OBJECT

private slots:
    void neighbours_become_one() {
        // A block within one column of chunks, and a slope over many tiles with what lies under it.
        QCOMPARE(prisms_in(strips_of(test::tile_level({"##########", "##########", "##########"}))),
                 size_t(1));
        const auto slope = strips_of(test::tile_level({"   /", "  /#", " /##", "/###"}));
        QCOMPARE(prisms_in(slope), size_t(1));
        const TilePrism& p = slope[0]->prisms[0];
        QCOMPARE(p.high_left, 0.0);
        QCOMPARE(p.high_right, 2.0);
        QVERIFY(p.low_left == 0.0 && p.low_right == 0.0 && p.left == 0.0 && p.right == 2.0);
        QCOMPARE(prisms_in(strips_of(test::tile_level({"  ab", "ab##"}))), size_t(1));
        // Kinds stay apart.
        QCOMPARE(strips_of(test::tile_level({"#-^"})).size(), size_t(3));
    }

    void matter_is_exactly_what_the_tiles_say() {
        Random random(51);
        for (int round = 0; round < test::rounds(60); ++round) {
            Level level = random_tiles(random, random.whole(1, 70), random.whole(1, 12));
            // Some lie mirrored or turned.
            TileLayer layer = **level.layers[0]->tiles;
            TileGridMaker maker(layer.grid);
            layer.grid.for_each_tile(layer.grid.area(), [&](CellAt at, Tile tile) {
                maker.put(
                    at, Tile(tile.number(), random.chance(0.3), random.chance(0.3) ? random.whole(0, 3) : 0));
            });
            layer.grid = maker.finished();
            Layer ground = *level.layers[0];
            ground.tiles = Shared<TileLayer>(layer);
            level.layers[0] = std::move(ground);
            const auto strips = strips_of(level);
            double area = 0, expected = 0;
            for (const auto& strip : strips)
                for (const TilePrism& prism : strip->prisms) {
                    area += area_of(prism);
                    QVERIFY(prism.right > prism.left);
                }
            layer.grid.for_each_tile(layer.grid.area(), [&](CellAt, Tile tile) {
                const auto outline = collision_outline(layer.sheet.get(), tile.number());
                double twice = 0;
                for (size_t i = 0; i < outline.size(); ++i)
                    twice += cross(outline[i], outline[(i + 1) % outline.size()]);
                expected += twice / 2 * layer.cell_m * layer.cell_m;
            });
            QVERIFY(std::abs(area - expected) < 1e-6 * (1 + expected));
            const Box3 box = box_of(layer, Frame::side, layer.grid.area());
            for (int i = 0; i < 300; ++i) {
                const Vec2 at(random.between(box.low.x, box.high.x), random.between(box.low.z, box.high.z));
                for (const auto kind :
                     {TileMatterKind::solid, TileMatterKind::one_way, TileMatterKind::deadly}) {
                    bool in = false;
                    for (const auto& strip : strips)
                        for (const TilePrism& prism : strip->prisms)
                            in |= strip->kind == kind && contains(prism, at);
                    QCOMPARE(in, in_tile(layer, at, kind));
                }
            }
        }
    }

    void an_edit_touches_only_its_columns() {
        Random random(52);
        Level level = random_tiles(random, 200, 20);
        TileMatterBuilder builder;
        auto before = builder.build(level);
        for (int round = 0; round < test::rounds(60); ++round) {
            const CellAt at{random.whole(0, 199), random.whole(0, 19)};
            const TileGrid::Change change{at, random.chance(0.5) ? Tile() : Tile(random.whole(0, 15))};
            TileLayer tiles = **level.layers[0]->tiles;
            tiles.grid = tiles.grid.with(std::span(&change, 1));
            Layer ground = *level.layers[0];
            ground.tiles = Shared<TileLayer>(std::move(tiles));
            level.layers[0] = std::move(ground);
            const auto after = builder.build(level), fresh = strips_of(level);
            QCOMPARE(after.size(), fresh.size());
            for (size_t i = 0; i < after.size(); ++i) QVERIFY(after[i]->prisms == fresh[i]->prisms);
            for (const auto& strip : before)
                if (strip->strip != chunk_of(at.column))
                    QVERIFY(std::find(after.begin(), after.end(), strip) != after.end());
            before = after;
        }
    }

    void grounds_take_few_prisms() {
        Random random(53);
        for (int round = 0; round < 5; ++round) {
            const Level level = terrain(random, 500, 100);
            size_t cells = 0;
            const TileGrid& grid = (*level.layers[0]->tiles)->grid;
            grid.for_each_tile(grid.area(), [&](CellAt, Tile) { ++cells; });
            const size_t prisms = prisms_in(strips_of(level));
            qInfo("%zu prisms for %zu cells: %.2f %%", prisms, cells, 100.0 * double(prisms) / double(cells));
            QVERIFY(double(prisms) <= 0.05 * double(cells));
        }
    }

    void only_solid_layers_count() {
        Level level = test::tile_level({"##"});
        TileLayer tiles = **level.layers[0]->tiles;
        tiles.solid = false;
        Layer ground = *level.layers[0];
        ground.tiles = Shared<TileLayer>(tiles);
        level.layers[0] = std::move(ground);
        QVERIFY(strips_of(level).empty());
        QVERIFY(build_solid(level).tiles.empty());
    }
};

RUBBLE_TEST(TileMatterTest)
#include "tile_matter_test.moc"
