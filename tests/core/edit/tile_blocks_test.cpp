#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "core/io/json_schema.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "edit/assemblies.h"
#include "edit/items.h"
#include "edit/tiles.h"
#include "io/assembly_file.h"
#include "level/tiles/laid_tiles.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

constexpr const char* k_file = "assemblies/stairs.assembly.json";

/// Ground with a block of tiles above it, all in metres of half cells.
Level drawn() {
    return test::tile_level({"........", //
                             "...s....", //
                             "..s#....", //
                             "########"});
}

/// The upper left corner of the block, and the lower right one.
const Box3 k_block{Vec3(1, 0, 0.5), Vec3(2, 0, 1.5)};

Project with_grey(Project project = {}) { return edit::with_sheet(project, *test::grey()); }

/// The tile at a place of the level as it is walked on.
Tile tile_at(const Level& level, double x, double z) {
    const Level laid = with_tiles_laid(level);
    Tile out;
    for (const auto& layer : laid.layers)
        if (layer->tiles)
            if (const Tile tile = (*layer->tiles)->grid.at(cell_at(**layer->tiles, level.frame, {x, 0, z}));
                !tile.empty())
                out = tile;
    return out;
}

/// The matter of a level as prisms, whatever layers they come from.
std::vector<build::TilePrism> matter_of(const Level& level) {
    std::vector<build::TilePrism> out;
    for (const auto& strip : build::SolidBuilder().build(level).tiles)
        out.insert(out.end(), strip->prisms.begin(), strip->prisms.end());
    return out;
}

edit::MadeAssembly made(const Level& level) {
    return edit::made_assembly(with_grey(), level, {}, "Stairs", k_file, k_block);
}

} // namespace

/// Cells of tile layers as parts of assemblies.
class TileBlocksTest : public QObject {
    Q_OBJECT

private slots:
    void cells_go_into_an_assembly_and_lie_where_they_lay() {
        const Level level = drawn();
        const auto with = made(level);
        QVERIFY(!with.id.empty());
        QCOMPARE(with.level.layers[0]->tiles->get()->grid.at({3, 1}), Tile()); // taken out of the layer
        for (double x = 0.25; x < 4; x += 0.5)
            for (double z = 0.25; z < 2; z += 0.5) QCOMPARE(tile_at(with.level, x, z), tile_at(level, x, z));
        QVERIFY(matter_of(with.level) == matter_of(level));
        QCOMPARE(with_tiles_laid(with.level).layers.size(), level.layers.size()); // in the layer it came from
        // Moved by whole cells it is still of that layer, by half a cell it lies in one of its own.
        const std::array ids{with.id};
        const Level moved = edit::transformed(with.level, ids, Transform::moving({1, 0, 0}));
        QCOMPARE(tile_at(moved, 2.75, 1.25), tile_at(level, 1.75, 1.25));
        QCOMPARE(tile_at(moved, 1.75, 1.25), Tile());
        QCOMPARE(with_tiles_laid(moved).layers.size(), level.layers.size());
        const Level off = edit::transformed(with.level, ids, Transform::moving({0.1, 0, 0}));
        QCOMPARE(with_tiles_laid(off).layers.size(), level.layers.size() + 1);
    }

    void what_it_holds_is_changed_in_all_places() {
        auto with = made(drawn());
        ItemId second;
        with.level = edit::with_placed(with.project, with.level, 0, k_file, {3.5, 0, 0.5}, 0, second);
        Document document;
        document.project = Shared<Project>(with.project);
        document.levels.push_back({{}, Shared<Level>(with.level), {}});
        const Level open = edit::level_of(*find_assembly(with.project, k_file), with.level);
        QCOMPARE(open.layers.size(), size_t(2)); // its items, and a layer of tiles to paint on
        document.levels.push_back({{}, Shared<Level>(open), k_file});
        // A block is painted on top of the steps of the assembly that is open.
        const TileGrid::Change more{{1, -1}, Tile(0)};
        Document next = document;
        next.levels[1].level = Shared<Level>(edit::with_tiles(open, open.layers[1]->id, {&more, 1}));
        next = edit::with_assemblies_followed(document, next);
        QCOMPARE(tile_at(*next.levels[0].level, 1.75, 1.75), Tile(0));
        QCOMPARE(tile_at(*next.levels[0].level, 3.75, 1.75), Tile(0));
        // A derived one has its tiles of its own, and follows in all else.
        Project project = edit::with_assembly(
            with.project, edit::derived(*find_assembly(with.project, k_file), "Own", "own"));
        document.project = Shared<Project>(project);
        document.levels[1] = {{}, Shared<Level>(edit::level_of(*find_assembly(project, "own"), open)), "own"};
        next = document;
        next.levels[1].level =
            Shared<Level>(edit::with_tiles(*document.levels[1].level, open.layers[1]->id, {&more, 1}));
        next = edit::with_assemblies_followed(document, next);
        const auto own = find_assembly(*next.project, "own");
        QCOMPARE(own->resolved.size(), size_t(1));
        QVERIFY(own->own.begin()->second.left_out);
        QCOMPARE(find_assembly(*next.project, k_file)->resolved, find_assembly(project, k_file)->resolved);
    }

    void turned_and_mirrored_matter_is_the_image_of_the_matter() {
        Random random(17);
        for (int round = 0; round < test::rounds(60); ++round) {
            TileGridMaker maker;
            for (int i = random.whole(1, 12); i > 0; --i)
                maker.put({random.whole(0, 4), random.whole(0, 4)},
                          Tile(std::array{0, 1, 5, 8, 12}[size_t(random.whole(0, 4))],
                               random.whole(0, 1) == 1, random.whole(0, 3)));
            Level level = test::tile_level({"...."});
            TileLayer tiles = **level.layers[0]->tiles;
            tiles.grid = maker.finished();
            level = edit::with_tile_layer(level, {"ground"}, tiles);
            const auto with = edit::made_assembly(with_grey(), level, {}, "Some", k_file,
                                                  Box3{Vec3(-9, 0, -9), Vec3(9, 0, 9)});
            const std::array ids{with.id};
            const Vec3 about(random.whole(-4, 4) * 0.5, 0, random.whole(-4, 4) * 0.5);
            const bool mirrors = random.whole(0, 1) == 1;
            const Transform transform = mirrors
                                            ? Transform::mirroring({0, about.x})
                                            : Transform::turning(about, random.whole(1, 3) * 90, {0, -1, 0});
            const Level elsewhere = edit::transformed(with.level, ids, transform);
            // Whether a place is in matter, here and at its image.
            const auto before = matter_of(level), after = matter_of(elsewhere);
            const auto in = [](const std::vector<build::TilePrism>& prisms, const Vec3& p) {
                return std::any_of(prisms.begin(), prisms.end(), [&](const build::TilePrism& prism) {
                    if (p.x < prism.left || p.x > prism.right) return false;
                    const double t = (p.x - prism.left) / (prism.right - prism.left);
                    return p.z > prism.low_left + (prism.low_right - prism.low_left) * t &&
                           p.z < prism.high_left + (prism.high_right - prism.high_left) * t;
                });
            };
            for (int i = 0; i < 50; ++i) {
                const Vec3 at(random.between(-1, 4), 0, random.between(-3, 2));
                QCOMPARE(in(after, transform.applied_to(at)), in(before, at));
            }
            // And as its place says, worked out anew.
            const PlacedAssembly placed = *find_item(elsewhere, with.id)->assembly();
            QVERIFY(members_at(with.id, placed) == placed.members);
        }
    }

    void what_did_not_change_stays_the_very_same() {
        const auto with = made(drawn());
        LaidTiles laid;
        const Level first = laid.of(with.level);
        Level named = with.level;
        named.name = "Another";
        const TileGrid::Change far{{100, 0}, Tile(0)};
        const Level again = laid.of(named);
        QVERIFY(again.layers[0].is(first.layers[0]));
        QCOMPARE(again.name, std::string("Another"));
        const Level painted = laid.of(edit::with_tiles(with.level, {"ground"}, {&far, 1}));
        QVERIFY((*painted.layers[0]->tiles)->grid != (*first.layers[0]->tiles)->grid);
        QCOMPARE((*painted.layers[0]->tiles)->grid.at({100, 0}), Tile(0));
    }

    void files_keep_them() {
        const auto with = made(drawn());
        const std::string text = io::text_of(*find_assembly(with.project, k_file));
        const auto again = io::assembly_from_text(text, "assembly");
        QVERIFY2(again, again ? "" : again.error().text().c_str());
        QCOMPARE(io::text_of(*again), text);
        QCOMPARE(test::schema_problems("assembly.schema.json", {io::Json::parse(text)}), QStringList(""));
        QVERIFY(!io::assembly_from_text(
            R"({"format":1,"items":[{"id":"a","type":"tiles","cell_m":0.5,"rows":["0,x"]}]})", "x"));
    }
};

RUBBLE_TEST(TileBlocksTest)
#include "tile_blocks_test.moc"
