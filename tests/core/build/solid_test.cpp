#include <QtTest/QtTest>

#include <set>

#include "base/angle.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "core/build/definitions.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "geometry/convex_area.h"
#include "test_program.h"

#include <glm/vector_relational.hpp>

using namespace rubble;
using test::any_brush;
using test::in_matter;
using test::LevelMaker;
using test::Random;
using test::same;

namespace {

/// Volume of aligned boxes by inclusion on the grid of their own coordinates.
double counted_volume(const Level& level) {
    struct Block {
        Vec3 low, high;
        Effect effect;
    };
    std::vector<Block> blocks;
    std::set<double> cuts[3];
    for (const OrderedBrush& ordered : ordered_brushes(level)) {
        Box3 box;
        for (const Vec3& p : corners_of(*ordered.brush)) box.add(p);
        blocks.push_back({box.low, box.high, ordered.brush->effect});
        for (int axis = 0; axis < 3; ++axis) cuts[axis].insert({box.low[axis], box.high[axis]});
    }
    double volume = 0;
    for (auto x = cuts[0].begin(); std::next(x) != cuts[0].end(); ++x)
        for (auto y = cuts[1].begin(); std::next(y) != cuts[1].end(); ++y)
            for (auto z = cuts[2].begin(); std::next(z) != cuts[2].end(); ++z) {
                const Vec3 low(*x, *y, *z), high(*std::next(x), *std::next(y), *std::next(z));
                const Vec3 middle = (low + high) * 0.5, size = high - low;
                const auto last = std::find_if(blocks.rbegin(), blocks.rend(), [&](const Block& b) {
                    return glm::all(glm::lessThan(b.low, middle)) && glm::all(glm::lessThan(middle, b.high));
                });
                if (last != blocks.rend() && last->effect == Effect::fill) volume += size.x * size.y * size.z;
            }
    return volume;
}

/// Volume of upright prisms (turned boxes) by slabs in height and exact plane areas: within a slab the
/// matter's cross-section is a fold of convex areas, kept as disjoint convex parts.
double sliced_volume(const Level& level) {
    struct Prism {
        geometry::ConvexArea area;
        double low, high;
        Effect effect;
    };
    std::vector<Prism> prisms;
    std::set<double> heights;
    for (const OrderedBrush& ordered : ordered_brushes(level)) {
        const std::vector<Vec3> p = corners_of(*ordered.brush);
        prisms.push_back(
            {{flat(p[0]), flat(p[1]), flat(p[2]), flat(p[3])}, p[0].z, p[4].z, ordered.brush->effect});
        heights.insert(p[0].z), heights.insert(p[4].z);
    }
    auto less = [](const std::vector<geometry::ConvexArea>& parts, const geometry::ConvexArea& cutter) {
        std::vector<geometry::ConvexArea> out;
        for (geometry::ConvexArea rest : parts)
            for (size_t i = 0; i < cutter.size() && !rest.empty(); ++i) {
                const Vec2 a = cutter[i], along = glm::normalize(cutter[(i + 1) % cutter.size()] - a);
                const geometry::HalfPlane inside{a, left_of(along)}, outside{a, -left_of(along)};
                if (auto part = geometry::clipped(rest, outside); !part.empty()) out.push_back(part);
                rest = geometry::clipped(rest, inside);
            }
        return out;
    };
    double volume = 0;
    for (auto low = heights.begin(); std::next(low) != heights.end(); ++low) {
        const double middle = (*low + *std::next(low)) / 2;
        std::vector<geometry::ConvexArea> parts;
        for (const Prism& prism : prisms) {
            if (middle < prism.low || middle > prism.high) continue;
            parts = less(parts, prism.area);
            if (prism.effect == Effect::fill) parts.push_back(prism.area);
        }
        for (const auto& part : parts) volume += geometry::area_of(part) * (*std::next(low) - *low);
    }
    return volume;
}

Level random_scene(Random& random, bool turned, int brushes) {
    LevelMaker maker;
    for (int i = 0; i < brushes; ++i) {
        const Vec3 at(random.stepped(0, 12, 0.25), random.stepped(0, 12, 0.25), random.stepped(0, 6, 0.25));
        const Vec3 size(random.stepped(0.5, 5, 0.5), random.stepped(0.5, 5, 0.5),
                        random.stepped(0.25, 3, 0.25));
        const double turn = turned && random.chance(0.5) ? random.stepped(0, 345, 7.5) : 0;
        maker.box(at, size, turn, random.chance(0.3) ? Effect::cut : Effect::fill);
    }
    return maker.level();
}

build::SurfaceFacts solid_facts(const Level& level) {
    return facts_of(build::surface_of(build::build_solid(level)));
}

} // namespace

class SolidTest : public QObject {
    Q_OBJECT

    /// At random places what the character meets is what the brushes in their order say.
    void matter_is_as_ordered(const Level& level, Random& random, int places) {
        const build::Solid solid = build::build_solid(level);
        const std::vector<OrderedBrush> brushes = ordered_brushes(level);
        for (int i = 0; i < places; ++i) {
            const Vec3 p(random.between(-2, 14), random.between(-2, 14), random.between(-1, 9));
            bool inside = false;
            for (const auto& brush : solid.brushes)
                for_each_matter(*brush, [&](const geometry::ConvexCell& cell) {
                    bool in = true;
                    for (const auto& face : cell.faces) in = in && face.plane.distance(p) < 0;
                    inside |= in;
                });
            QCOMPARE(inside, in_matter(brushes, p));
        }
    }

private slots:
    void one_box_is_itself() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 3, 4});
        const auto f = solid_facts(maker.level());
        QCOMPARE(f.volume_m3, 24.0);
        QCOMPARE(f.area_m2, 52.0);
        QCOMPARE(f.faces, size_t(6));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void a_ramp_is_half_its_box() {
        LevelMaker maker;
        maker.ramp({1, 1, 1}, {4, 2, 2}, 30);
        const auto f = solid_facts(maker.level());
        QVERIFY(std::abs(f.volume_m3 - 8.0) < 1e-5);
        QCOMPARE(f.faces, size_t(5));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void a_doorway_goes_through_a_wall() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 0.25, 3});
        maker.cut({0, 0, 0}, {1, 1, 2});
        const auto f = solid_facts(maker.level());
        QVERIFY(std::abs(f.volume_m3 - (4 * 0.25 * 3 - 1 * 0.25 * 2)) < 1e-9);
        QCOMPARE(f.open_edges, size_t(0));
    }

    void touching_boxes_share_no_face() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 2});
        maker.box({2, 0, 0}, {2, 2, 2});
        const auto f = solid_facts(maker.level());
        QCOMPARE(f.volume_m3, 16.0);
        QCOMPARE(f.area_m2, 40.0);
        QCOMPARE(f.open_edges, size_t(0));
    }

    void a_later_fill_mends_a_cut() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 4});
        maker.cut({0, 0, 1}, {2, 2, 2});
        maker.box({0, 0, 1}, {2, 2, 2});
        QVERIFY(std::abs(solid_facts(maker.level()).volume_m3 - 64.0) < 1e-9);
    }

    void a_cut_alone_leaves_nothing() {
        LevelMaker maker;
        maker.cut({0, 0, 0}, {2, 2, 2});
        QCOMPARE(solid_facts(maker.level()).faces, size_t(0));
        QCOMPARE(solid_facts(Level{}).faces, size_t(0));
    }

    void round_shapes_have_the_volume_of_their_corners() {
        Random random(2107);
        for (int round = 0; round < test::rounds(200); ++round) {
            Brush brush;
            brush.shape = random.chance(0.5) ? Shape::cylinder : Shape::cone;
            brush.sides = random.whole(least_sides, most_sides);
            brush.size = {random.between(0.2, 6), random.between(0.2, 6), random.between(0.2, 6)};
            brush.place.at = {random.between(-20, 20), random.between(-20, 20), random.between(-3, 3)};
            brush.place.turn_deg = random.between(0, 360);
            if (random.chance(0.3)) brush.place.rotation = random.rotation();
            LevelMaker maker;
            maker.brush(brush);
            const auto f = solid_facts(maker.level());
            const double n = brush.sides;
            const double base = n / 2 * std::sin(radians(360 / n)) * brush.size.x * brush.size.y / 4;
            const double volume = base * brush.size.z / (brush.shape == Shape::cone ? 3 : 1);
            QCOMPARE(f.open_edges, size_t(0));
            QVERIFY2(std::abs(f.volume_m3 - volume) < 1e-5 * volume + 1e-6,
                     qPrintable(QString("%1 against %2").arg(f.volume_m3).arg(volume)));
        }
    }

    void all_shapes_among_others_leave_a_closed_surface() {
        Random random(2108);
        for (int scene = 0; scene < test::rounds(120); ++scene) {
            LevelMaker maker;
            for (int i = 0; i < 30; ++i) {
                Brush brush = any_brush(random);
                brush.place.at = {random.stepped(0, 9, 0.25), random.stepped(0, 9, 0.25),
                                  random.stepped(0, 3, 0.25)};
                brush.place.turn_deg = random.chance(0.5) ? random.stepped(0, 345, 7.5) : 0;
                if (random.chance(0.1)) brush.place.rotation = random.rotation();
                maker.brush(brush);
            }
            const Level level = maker.level();
            QCOMPARE(solid_facts(level).open_edges, size_t(0));
            matter_is_as_ordered(level, random, 100);
            // A cut around everything leaves nothing.
            maker.box({4.5, 4.5, -20}, {60, 60, 60}, 0, Effect::cut);
            QCOMPARE(solid_facts(maker.level()).faces, size_t(0));
        }
    }

    void a_tipped_box_is_closed() {
        LevelMaker maker;
        Brush tipped;
        tipped.place.at = {0, 0, 1};
        tipped.place.rotation = Rotation{0.2, 0.1, 0.3, std::sqrt(1 - 0.04 - 0.01 - 0.09)};
        tipped.size = {2, 1, 3};
        maker.box({0, 0, 0}, {6, 6, 1});
        maker.brush(tipped);
        QCOMPARE(solid_facts(maker.level()).open_edges, size_t(0));
    }

    void cut_faces_take_the_cuts_material_or_the_fills() {
        LevelMaker maker;
        Brush wall;
        wall.size = {4, 1, 3};
        wall.material = {"brick"};
        Brush door;
        door.effect = Effect::cut;
        door.size = {1, 2, 2};
        maker.brush(wall);
        maker.brush(door);
        auto materials = [](const Level& level) {
            std::set<std::string> out;
            for_each_face(surface_of(build::build_solid(level)),
                          [&](int brush, const build::SurfacePart&, const build::SurfaceFace& face) {
                              if (brush == 1) out.insert(face.material.value);
                          });
            return out;
        };
        QCOMPARE(materials(maker.level()), std::set<std::string>{"brick"});
        door.material = {"plaster"};
        maker = LevelMaker{};
        maker.brush(wall);
        maker.brush(door);
        QCOMPARE(materials(maker.level()), std::set<std::string>{"plaster"});
    }

    void random_aligned_scenes_are_closed_and_exact() {
        Random random(2101);
        for (int scene = 0; scene < test::rounds(250); ++scene) {
            const Level level = random_scene(random, false, 50);
            const auto f = solid_facts(level);
            QCOMPARE(f.open_edges, size_t(0));
            const double counted = counted_volume(level);
            QVERIFY2(std::abs(f.volume_m3 - counted) <= 1e-9 * std::max(1.0, counted),
                     qPrintable(QString("scene %1: %2 against %3")
                                    .arg(scene)
                                    .arg(f.volume_m3, 0, 'g', 15)
                                    .arg(counted, 0, 'g', 15)));
        }
    }

    void random_turned_scenes_are_closed_and_exact() {
        Random random(2102);
        for (int scene = 0; scene < test::rounds(250); ++scene) {
            const Level level = random_scene(random, true, 50);
            const auto f = solid_facts(level);
            QCOMPARE(f.open_edges, size_t(0));
            const double counted = sliced_volume(level);
            QVERIFY2(std::abs(f.volume_m3 - counted) <= 1e-6 * std::max(1.0, counted),
                     qPrintable(QString("scene %1: %2 against %3")
                                    .arg(scene)
                                    .arg(f.volume_m3, 0, 'g', 15)
                                    .arg(counted, 0, 'g', 15)));
        }
    }

    void matter_and_surface_agree() {
        Random random(2103);
        for (int scene = 0; scene < test::rounds(20); ++scene)
            matter_is_as_ordered(random_scene(random, true, 20), random, 500);
    }

    void an_edit_builds_what_a_full_build_would() {
        Random random(2104);
        Level level = random_scene(random, true, 40);
        build::SolidBuilder builder;
        build::SurfaceBuilder surfaces;
        surfaces.build(builder.build(level));
        for (int edit = 0; edit < test::rounds(60); ++edit) {
            const auto brushes = ordered_brushes(level);
            const std::vector<ItemId> one{brushes[size_t(random.whole(0, int(brushes.size()) - 1))].item->id};
            level = edit::moved(level, one, {random.stepped(-1, 1, 0.25), random.stepped(-1, 1, 0.25), 0});
            QVERIFY(same(surfaces.build(builder.build(level)), surface_of(build::build_solid(level))));
        }
    }

    void a_floor_under_very_many_is_built_in_tiles_and_stays_exact() {
        Random random(2106);
        LevelMaker maker;
        maker.box({0, 0, -1}, {70, 50, 1}, 0, Effect::fill);
        for (int i = 0; i < 150; ++i) { // on the floor and over its rim, and holes through it
            const bool cut = i % 5 == 0;
            maker.box({random.stepped(-34, 34, 0.25), random.stepped(-25, 25, 0.25), cut ? -2.0 : 0.0},
                      {random.stepped(0.5, 3, 0.25), random.stepped(0.5, 3, 0.25), cut ? 3.0 : 1.5}, 0,
                      cut ? Effect::cut : Effect::fill);
        }
        Level level = maker.level();
        std::vector<ItemId> ids;
        for (const OrderedBrush& brush : ordered_brushes(level)) ids.push_back(brush.item->id);
        const std::vector<ItemId> most(ids.begin() + 20, ids.end());
        build::SolidBuilder builder;
        build::SurfaceBuilder surfaces;
        size_t reused = 0, tiles = 0;
        build::Solid before = builder.build(level);
        for (int edit = 0; edit < test::rounds(40); ++edit) {
            const std::vector<ItemId> one{ids[size_t(random.whole(1, 150))]};
            // Every tenth edit takes most of them away or brings them back: faces with and without tiles.
            const Level all = level;
            const Vec3 by(random.stepped(-1, 1, 0.25), random.stepped(-1, 1, 0.25), 0);
            level = edit % 10 == 9 ? edit::without(level, most) : edit::moved(level, one, by);
            const build::Solid solid = builder.build(level);
            const build::Surface partly = surfaces.build(solid),
                                 wholly = surface_of(build::build_solid(level));
            QVERIFY(same(partly, wholly));
            QCOMPARE(facts_of(partly).open_edges, size_t(0));
            const double counted = counted_volume(level), built = facts_of(partly).volume_m3;
            QVERIFY2(std::abs(counted - built) < 1e-9 * counted,
                     qPrintable(QString("%1 counted, %2 built").arg(counted).arg(built)));
            const auto &parts = solid.brushes[0]->parts, &then = before.brushes[0]->parts;
            tiles += parts.size();
            for (const auto& part : parts)
                reused += size_t(std::find(then.begin(), then.end(), part) != then.end());
            before = solid;
            if (edit % 10 == 9) level = all;
        }
        qInfo("%zu of %zu tiles were kept", reused, tiles);
        QVERIFY(reused > tiles / 2);
    }

    /// Most tiles, and most of what stands on the floor or cuts into it, are kept: they must be as built
    /// anew.
    void a_floor_pushed_under_very_many_is_as_built_from_nothing() {
        Random random(2107);
        LevelMaker maker;
        const ItemId floor = maker.box({0, 0, -1}, {40, 30, 1});
        for (int i = 0; i < 120; ++i) {
            const Vec3 at(random.stepped(-21, 21, 0.25), random.stepped(-16, 16, 0.25),
                          random.stepped(-1.5, 0.25, 0.25));
            const Vec3 size(random.stepped(0.5, 3, 0.25), random.stepped(0.5, 3, 0.25),
                            random.stepped(0.5, 3, 0.25));
            const double turn = random.chance(0.3) ? random.stepped(0, 345, 15) : 0;
            maker.box(at, size, turn, random.chance(0.4) ? Effect::cut : Effect::fill);
        }
        Level level = maker.level();
        build::SolidBuilder builder;
        build::SurfaceBuilder surfaces;
        size_t kept = 0, all = 0;
        build::Solid before = builder.build(level);
        for (int edit = 0; edit < test::rounds(40); ++edit) {
            Item moved = *find_item(level, floor);
            Brush& brush = std::get<Brush>(moved.body);
            if (edit % 4 == 3) // by its size
                brush.size[random.whole(0, 1)] += random.chance(0.5) ? 0.5 : -0.5;
            else
                brush.place.at[random.whole(0, edit % 4)] += random.chance(0.5) ? 0.25 : -0.25;
            level = edit::with_changed(level, moved);
            const build::Solid solid = builder.build(level);
            const build::Surface partly = surfaces.build(solid);
            QVERIFY(same(partly, surface_of(build::build_solid(level))));
            QCOMPARE(facts_of(partly).open_edges, size_t(0));
            for (size_t b = 1; b < solid.brushes.size(); ++b)
                ++all, kept += solid.brushes[b] == before.brushes[b];
            before = solid;
        }
        qInfo("%zu of %zu brushes on it were kept", kept, all);
        QVERIFY(kept > all / 2);
    }

    void triangles_cover_each_face() {
        Random random(2105);
        const build::Surface surface = surface_of(build::build_solid(random_scene(random, true, 40)));
        double area = 0;
        bool outward = true, whole = true;
        for_each_face(surface, [&](int, const build::SurfacePart& part, const build::SurfaceFace& face) {
            whole = whole && int(triangles_of(part, face).size()) == face.count - 2; // no corner is left out
            for (const auto& [a, b, c] : triangles_of(part, face)) {
                const Vec3 p = part.point_m(a);
                const Vec3 twice = glm::cross(part.point_m(b) - p, part.point_m(c) - p);
                area += glm::length(twice) / 2;
                // Corners are rounded to a micrometre: a sliver along an edge may look inward by as much.
                const double longest =
                    std::max(glm::length(part.point_m(b) - p), glm::length(part.point_m(c) - p));
                outward = outward && glm::dot(twice, face.normal) > -2e-6 * longest;
            }
        });
        QVERIFY(outward);
        QVERIFY(whole);
        QVERIFY(std::abs(area - facts_of(surface).area_m2) < 1e-6 * area);
    }
};

RUBBLE_TEST(SolidTest)
#include "solid_test.moc"
