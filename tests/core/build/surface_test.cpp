#include <QtTest/QtTest>

#include <map>
#include <set>

#include "build/seams.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "build/whole_faces.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "level/order.h"
#include "test_program.h"

using namespace rubble;
using build::SurfaceCorner;
using build::SurfaceFace;
using build::SurfacePart;
using geometry::TickPoint;
using test::LevelMaker;
using test::Random;

namespace {

build::Surface surface(const Level& level) { return build::surface_of(build::build_solid(level)); }
build::SurfaceFacts facts(const Level& level) { return facts_of(surface(level)); }

/// A level of brushes in whole cells, most of them touching.
Level blocks(Random& random, int count, bool materials) {
    LevelMaker maker;
    for (int i = 0; i < count; ++i) {
        Brush brush;
        brush.place.at = Vec3(random.whole(0, 6), random.whole(0, 6), random.whole(0, 2));
        brush.size = Vec3(random.whole(1, 3), random.whole(1, 3), random.whole(1, 2));
        if (random.chance(0.2)) brush.effect = Effect::cut;
        if (materials) brush.material = {random.chance(0.5) ? "brick" : "plaster"};
        maker.brush(brush);
    }
    return maker.level();
}

/// Which unit squares of the grid bound the solid, by plane, side and place; counted cell by cell.
using Square = std::array<int, 5>; // axis, outward sign, and the lowest corner
std::map<Square, std::string> squares_of(const Level& level) {
    constexpr int n = 24;
    // Twice as fine as the blocks: middles of odd sizes lie on halves.
    std::vector<const Brush*> owner(n * n * n, nullptr);
    auto at = [&](int x, int y, int z) -> const Brush*& { return owner[size_t((x * n + y) * n + z)]; };
    std::vector<std::string> cut_with(n * n * n);
    for (const OrderedBrush& ordered : ordered_brushes(level)) {
        const Brush& b = *ordered.brush;
        const Vec3 low = b.place.at - Vec3(b.size.x / 2, b.size.y / 2, 0), high = low + b.size;
        for (int x = int(std::lround(2 * low.x)); x < int(std::lround(2 * high.x)); ++x)
            for (int y = int(std::lround(2 * low.y)); y < int(std::lround(2 * high.y)); ++y)
                for (int z = int(std::lround(2 * low.z)); z < int(std::lround(2 * high.z)); ++z)
                    at(x + 4, y + 4, z + 4) = b.effect == Effect::fill ? &b : nullptr;
    }
    std::map<Square, std::string> out;
    for (int x = 1; x < n; ++x)
        for (int y = 1; y < n; ++y)
            for (int z = 1; z < n; ++z)
                for (int axis = 0; axis < 3; ++axis) {
                    const Brush* here = at(x, y, z);
                    const Brush* below = at(x - (axis == 0), y - (axis == 1), z - (axis == 2));
                    if (!here == !below) continue;
                    out[{axis, here ? -1 : 1, x, y, z}] = (here ? here : below)->material.value;
                }
    return out;
}

/// How many areas of one plane, side and material hang together by edges.
size_t count_areas(std::map<Square, std::string> squares) {
    size_t areas = 0;
    while (!squares.empty()) {
        ++areas;
        const std::string material = squares.begin()->second;
        std::vector<Square> open{squares.begin()->first};
        squares.erase(squares.begin());
        while (!open.empty()) {
            const Square square = open.back();
            open.pop_back();
            for (int axis = 0; axis < 3; ++axis)
                for (const int step : {-1, 1}) {
                    if (axis == square[0]) continue;
                    Square next = square;
                    next[size_t(axis + 2)] += step;
                    const auto found = squares.find(next);
                    if (found == squares.end() || found->second != material) continue;
                    open.push_back(next);
                    squares.erase(found);
                }
        }
    }
    return areas;
}

} // namespace

class SurfaceTest : public QObject {
    Q_OBJECT

private slots:
    void boxes_side_by_side_have_the_faces_of_one() {
        LevelMaker maker;
        for (int i = 0; i < 5; ++i) maker.box({double(i), 0, 0}, {1, 1, 1});
        const auto f = facts(maker.level());
        QCOMPARE(f.faces, size_t(6));
        QCOMPARE(f.pieces, size_t(22));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void a_hole_leaves_its_wall_one_face() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {6, 1, 4});
        maker.cut({0, 0, 1}, {2, 3, 2}); // a window: the wall's faces have a hole
        QCOMPARE(facts(maker.level()).faces, size_t(6 + 4));
    }

    void another_material_is_another_face() {
        LevelMaker maker;
        Brush brush;
        brush.size = {1, 1, 1};
        brush.material = {"brick"};
        maker.brush(brush);
        brush.place.at.x = 1;
        maker.brush(brush);
        QCOMPARE(facts(maker.level()).faces, size_t(6));
        brush.place.at.x = 2;
        brush.material = {"plaster"};
        maker.brush(brush);
        QCOMPARE(facts(maker.level()).faces, size_t(5 + 5)); // and none between them
    }

    /// One face for each connected area in one plane with one material, exactly, as counted on a grid.
    void faces_are_counted_as_on_a_grid_of_cells() {
        Random random(2301);
        for (int round = 0; round < test::rounds(120); ++round) {
            // Cut faces without a material take that of the fill, which the grid does not follow.
            Level level = blocks(random, 25, false);
            const auto f = facts(level);
            QCOMPARE(f.open_edges, size_t(0));
            QCOMPARE(f.faces, count_areas(squares_of(level)));
        }
    }

    void a_wall_with_a_window_is_one_polygon_with_a_hole() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {6, 1, 4});
        maker.cut({0, 0, 1}, {2, 3, 2});
        const auto faces = whole_faces_of(surface(maker.level()));
        QCOMPARE(faces.size(), size_t(10));
        int holed = 0;
        for (const build::WholeFace& face : faces) {
            if (face.rings.size() == 1) continue;
            ++holed;
            QCOMPARE(face.rings.size(), size_t(2));
            QCOMPARE(std::abs(face.normal.y), 1.0);
            QVERIFY(std::abs(face.area_m2 - 20) < 1e-9 && std::abs(face.around_m - (20 + 8)) < 1e-9);
        }
        QCOMPARE(holed, 2);
    }

    void areas_that_meet_in_a_corner_are_two_and_a_ring_that_meets_itself_is_parted() {
        LevelMaker two;
        two.box({0, 0, 0}, {1, 1, 1});
        two.box({1, 1, 0}, {1, 1, 1});
        const auto apart = whole_faces_of(surface(two.level()));
        QCOMPARE(apart.size(), size_t(12));
        // A frame around a hole that touches its outside in a corner: one area of two rings, or of one that
        // comes by the corner twice, but never one that crosses itself.
        LevelMaker frame;
        frame.box({0, 0, 0}, {4, 4, 1});
        frame.cut({0, 0, -1}, {2, 2, 3});
        frame.cut({1.5, 1.5, -1}, {1, 1, 3});
        for (const build::WholeFace& face : whole_faces_of(surface(frame.level()))) {
            if (face.normal.z < 0.5) continue;
            QVERIFY(std::abs(face.area_m2 - (16 - 4 - 1)) < 1e-9);
            QVERIFY(std::abs(face.around_m - (16 + 8)) < 1e-9);
        }
    }

    /// Whole faces have the areas of their pieces, and there are as many of them as are counted on the grid.
    void whole_faces_are_the_areas_of_the_surface() {
        Random random(2302);
        for (int round = 0; round < test::rounds(60); ++round) {
            const Level level = blocks(random, 25, false);
            const build::Surface whole = surface(level);
            const auto faces = whole_faces_of(whole);
            QCOMPARE(faces.size(), count_areas(squares_of(level)));
            double area = 0;
            for (const build::WholeFace& face : faces) {
                QVERIFY(!face.rings.empty() && face.area_m2 > 0.1 && !face.brushes.empty());
                area += face.area_m2;
                for (const auto& ring : face.rings) {
                    QVERIFY(ring.size() >= 4);
                    for (const auto& p : ring)
                        QVERIFY(std::abs(glm::dot(geometry::to_metres(p) - geometry::to_metres(ring[0]),
                                                  face.normal)) < 1e-9);
                }
            }
            QVERIFY(std::abs(area - facts_of(whole).area_m2) < 1e-6);
        }
    }

    void edges_between_faces_that_go_on_are_inner_from_both_sides() {
        Random random(2302);
        for (int round = 0; round < test::rounds(40); ++round) {
            struct Edge {
                TickPoint from, to;
                int32_t plane;
                bool up;
                auto operator<=>(const Edge&) const = default;
            };
            std::set<Edge> inner;
            for_each_face(surface(blocks(random, 20, true)),
                          [&](int, const SurfacePart& part, const SurfaceFace& face) {
                              const auto loop = part.loop(face);
                              const bool up = face.normal.x + face.normal.y + face.normal.z > 0;
                              for (size_t i = 0; i < loop.size(); ++i)
                                  if (loop[i].inner)
                                      inner.insert({part.points[size_t(loop[i].point)],
                                                    part.points[size_t(loop[(i + 1) % loop.size()].point)],
                                                    face.plane, up});
                          });
            QVERIFY(!inner.empty());
            for (const Edge& edge : inner) QVERIFY(inner.contains({edge.to, edge.from, edge.plane, edge.up}));
        }
    }

    void parts_far_from_an_edit_stay_the_very_same() {
        LevelMaker maker;
        for (int i = 0; i < 40; ++i) maker.box({3.0 * i, 0, 0}, {2.5, 2, 1});
        const ItemId moved = maker.box({0, 0, 1}, {1, 1, 1});
        Level level = maker.level();
        build::SolidBuilder solids;
        build::SurfaceBuilder surfaces;
        const build::Surface before = surfaces.build(solids.build(level));
        const std::vector<ItemId> one{moved};
        const build::Surface after = surfaces.build(solids.build(edit::moved(level, one, {0.25, 0, 0})));
        size_t same = 0;
        for (size_t i = 0; i < after.brushes.size(); ++i) same += before.brushes[i] == after.brushes[i];
        QCOMPARE(same, size_t(39)); // all but the moved one and the one beneath it
    }

    void what_moves_without_touching_changes_no_other() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 1});
        const ItemId free = maker.box({0, 0, 3}, {1, 1, 1});
        build::SolidBuilder solids;
        Level level = maker.level();
        const build::Solid before = solids.build(level);
        const std::vector<ItemId> one{free};
        const build::Solid after = solids.build(edit::moved(level, one, {0, 0.25, 0}));
        QVERIFY(before.brushes[0] == after.brushes[0]);
        QVERIFY(before.brushes[1] != after.brushes[1]);
    }

    /// Edits of every kind in a row: brushes come, go, move and change their places in the order.
    void any_edit_gives_what_a_full_build_gives() {
        Random random(2303);
        for (int round = 0; round < test::rounds(12); ++round) {
            Level level = blocks(random, 30, true);
            build::SolidBuilder solids;
            build::SurfaceBuilder surfaces;
            int next = 0;
            for (int edit = 0; edit < 25; ++edit) {
                std::vector<ItemPtr> items = level.layers[0]->items.values();
                const size_t at = size_t(random.whole(0, int(items.size()) - 1));
                switch (random.whole(0, 3)) {
                case 0: {
                    Item item = *items[at];
                    std::get<Brush>(item.body).place.at.x += random.whole(-1, 1);
                    items[at] = item;
                    break;
                }
                case 1:
                    items.erase(items.begin() + long(at));
                    break;
                case 2: {
                    Item item = *items[at];
                    item.id = {"new" + std::to_string(next++)};
                    std::get<Brush>(item.body).place.at.y += 1;
                    items.insert(items.begin() + long(at), item);
                    break;
                }
                default: { // to the end of the order
                    const ItemPtr item = items[at];
                    items.erase(items.begin() + long(at));
                    items.push_back(item);
                }
                }
                Layer layer = *level.layers[0];
                layer.items = items;
                level.layers[0] = layer;
                const auto partly = facts_of(surfaces.build(solids.build(level)));
                const auto wholly = facts(level);
                QCOMPARE(partly.volume_m3, wholly.volume_m3);
                QCOMPARE(partly.area_m2, wholly.area_m2);
                QCOMPARE(partly.faces, wholly.faces);
                QCOMPARE(partly.pieces, wholly.pieces);
                QCOMPARE(partly.open_edges, size_t(0));
            }
        }
    }

    void the_order_of_unrelated_brushes_does_not_matter() {
        Random random(2304);
        for (int round = 0; round < test::rounds(30); ++round) {
            // Two heaps far apart: one stored before, after or among the other.
            Level level = blocks(random, 15, true);
            Layer layer = *level.layers[0];
            const size_t count = layer.items.size();
            std::vector<ItemPtr> far;
            for (size_t i = 0; i < count; ++i) {
                Item item = *layer.items[i];
                item.id = {"far" + std::to_string(i)};
                std::get<Brush>(item.body).place.at.x += 100;
                far.push_back(item);
            }
            auto faces_of = [&](const std::vector<ItemPtr>& items) {
                Layer stored = layer;
                stored.items = items;
                Level other = level;
                other.layers[0] = stored;
                std::multiset<std::vector<TickPoint>> faces;
                for_each_face(surface(other), [&](int, const SurfacePart& part, const SurfaceFace& face) {
                    std::vector<TickPoint> loop;
                    for (const SurfaceCorner& corner : part.loop(face))
                        loop.push_back(part.points[size_t(corner.point)]);
                    std::rotate(loop.begin(), std::min_element(loop.begin(), loop.end()), loop.end());
                    faces.insert(loop);
                });
                return faces;
            };
            std::vector<ItemPtr> first = layer.items.values(), last = far, mixed;
            first.insert(first.end(), far.begin(), far.end());
            last.insert(last.end(), layer.items.begin(), layer.items.end());
            for (size_t i = 0; i < count; ++i) mixed.push_back(far[i]), mixed.push_back(layer.items[i]);
            const auto expected = faces_of(first);
            QVERIFY(faces_of(last) == expected);
            QVERIFY(faces_of(mixed) == expected);
        }
    }

    void a_build_that_was_given_up_is_done_again_in_full() {
        Random random(2305);
        const Level level = blocks(random, 60, false);
        build::SolidBuilder solids;
        const Cancel cancel = Cancel::create();
        cancel.request();
        QVERIFY(solids.build(level, cancel).brushes.empty());
        QCOMPARE(facts_of(build::surface_of(solids.build(level))).volume_m3, facts(level).volume_m3);
    }
};

RUBBLE_TEST(SurfaceTest)
#include "surface_test.moc"
