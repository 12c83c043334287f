#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/massing.h"
#include "edit/openings.h"
#include "edit/repeats.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::LevelMaker;
using test::Random;

namespace {

Brush any_brush(Random& random) {
    Brush brush;
    brush.shape = Shape(random.whole(0, 7));
    brush.size = {random.stepped(2, 5, 0.5), random.stepped(2, 5, 0.5), random.stepped(1, 3, 0.5)};
    brush.sides = random.whole(3, 9);
    brush.thickness_m = 0.2;
    if (random.chance(0.3)) {
        brush.shape = Shape::outline;
        brush.points = {{0, 0}, {3, 0}, {3, 1}, {1, 1}, {1, 2}, {0, 2}};
    }
    brush.place.at = {random.between(-5, 5), random.between(-5, 5), random.between(0, 3)};
    brush.place.turn_deg = random.between(-180, 180);
    if (random.chance(0.4)) brush.place.rotation = random.rotation();
    return measured(brush);
}

/// The corners of a brush's surface, in order.
std::vector<Vec3> corners(
    const Brush& brush, const std::function<Vec3(Vec3)>& map = [](Vec3 p) { return p; }) {
    std::vector<Vec3> out;
    for (const Vec3& p : corners_of(brush)) out.push_back(map(p));
    std::sort(out.begin(), out.end(), [](const Vec3& a, const Vec3& b) {
        const auto key = [](const Vec3& p) {
            return std::array{std::round(p.x * 1e3), std::round(p.y * 1e3), std::round(p.z * 1e3)};
        };
        return key(a) < key(b);
    });
    return out;
}

Level with(const Brush& brush) {
    Level level;
    Layer layer;
    layer.id = {"l"}, layer.items = {Item{{"a"}, {}, false, brush, {}}};
    level.layers.push_back(layer);
    return level;
}
const std::vector<ItemId> k_a{{"a"}};

const Brush& brush_of(const Level& level, const ItemId& id) { return *find_item(level, id)->brush(); }

} // namespace

class RepeatsTest : public QObject {
    Q_OBJECT

private slots:
    /// A mass has its own way of being seen in a mirror: cell by cell, slopes too.
    void a_mirrored_mass_stands_where_the_mirror_shows_it() {
        MassEditor cells(MassGrid{0.5, {}});
        for (int x = 0; x < 6; ++x)
            for (int y = 0; y < 4; ++y) cells.set(x, y, 0, 1 + x, Cell::full());
        const MassGrid stair = cells.finished();
        const auto slope = edit::smoothed(stair, edit::area_between(stair, 2, 1, {0, 0}, {5, 3}, 6, false));
        QVERIFY(slope.done);
        Brush mass;
        mass.shape = Shape::mass;
        mass.cells = slope.grid;
        mass.place.at = {1, 2, 0.5};
        for (const double turn : {0.0, 90.0, 37.0}) {
            mass.place.turn_deg = turn;
            const Item item{{"m"}, {}, false, measured(mass), {}};
            for (const MirrorPlane& plane : {MirrorPlane{0, 3.5}, MirrorPlane{1, -1}}) {
                const Item image = edit::mirrored(item, plane);
                QCOMPARE(problem_of(*image.brush()), std::string());
                Box3 box = box_of(item);
                const double low = box.low[plane.axis], high = box.high[plane.axis];
                box.low[plane.axis] = 2 * plane.at_m - high, box.high[plane.axis] = 2 * plane.at_m - low;
                QVERIFY(glm::length(box_of(image).low - box.low) < 1e-5);
                QVERIFY(glm::length(box_of(image).high - box.high) < 1e-5);
                QVERIFY(edit::mirrored(image, plane).brush()->cells == item.brush()->cells);
                // What was high stays high on the other side.
                const Vec3 high_end = mass.place.to_level({2.75, 1, 1});
                Vec3 seen = high_end;
                seen[plane.axis] = 2 * plane.at_m - seen[plane.axis];
                const Vec3 own = image.brush()->place.to_own(seen) / 0.5;
                QVERIFY(image.brush()
                            ->cells.at(int(std::floor(own.x)), int(std::floor(own.y)), int(std::floor(own.z)))
                            .is_full());
            }
        }
    }

    void linked_masses_share_their_cells_and_keep_their_places() {
        MassEditor cells(MassGrid{1, {}});
        cells.set(0, 0, 0, 2, Cell::full());
        Brush mass;
        mass.shape = Shape::mass;
        mass.cells = cells.finished();
        LevelMaker maker;
        const ItemId id = maker.brush(measured(mass));
        const auto copies = edit::linked_copies(maker.level(), std::vector{id}, {5, 0, 0});
        Item changed = *find_item(copies.level, id);
        std::get<Brush>(changed.body).cells =
            edit::raised(mass.cells, edit::area_between(mass.cells, 2, 1, {0, 0}, {0, 0}, 2, false), 3).grid;
        const Level after =
            edit::with_links_followed(copies.level, edit::with_changed(copies.level, changed));
        const Brush& copy = *find_item(after, copies.ids[0])->brush();
        QCOMPARE(copy.cells.extent().high[2], 5);
        QCOMPARE(copy.place.at, Vec3(5, 0, 0));
    }

    void a_row_and_a_ring_are_repeated() {
        Brush crate;
        const Copies row = repeated(with(crate), k_a, 4, {2, 0, 0.5}, 0);
        QCOMPARE(row.ids.size(), size_t(4));
        QCOMPARE(brush_of(row.level, row.ids[3]).place.at, Vec3(8, 0, 2));
        // Four steps of 2 m with a quarter turn each come back to the first.
        const Copies ring = repeated(with(crate), k_a, 4, {2, 0, 0}, 90);
        QVERIFY(glm::length(brush_of(ring.level, ring.ids[3]).place.at) < 1e-9);
        QVERIFY(glm::length(brush_of(ring.level, ring.ids[1]).place.at - Vec3(2, 2, 0)) < 1e-9);
        QCOMPARE(brush_of(ring.level, ring.ids[0]).place.turn_deg, 90.0);
    }

    void a_mirrored_brush_is_the_mirror_image() {
        Random random(2701);
        for (int round = 0; round < test::rounds(200); ++round) {
            const Brush brush = any_brush(random);
            if (!problem_of(brush).empty()) continue;
            const MirrorPlane plane{random.whole(0, 1), random.between(-3, 3)};
            const Item image = mirrored(Item{{"a"}, {}, false, brush, {}}, plane);
            QCOMPARE(problem_of(*image.brush()), std::string());
            const auto expected = corners(brush, [&](Vec3 p) {
                p[plane.axis] = 2 * plane.at_m - p[plane.axis];
                return p;
            });
            const auto found = corners(*image.brush());
            QCOMPARE(found.size(), expected.size());
            for (const Vec3& p : expected) {
                double nearest = 1;
                for (const Vec3& q : found) nearest = std::min(nearest, glm::length(p - q));
                QVERIFY2(nearest < 1e-4, std::to_string(int(brush.shape)).c_str());
            }
            // Twice is as it was.
            const Item back = mirrored(image, plane);
            const auto again = corners(*back.brush()), first = corners(brush);
            for (size_t i = 0; i < first.size(); ++i) {
                double nearest = 1;
                for (const Vec3& q : again) nearest = std::min(nearest, glm::length(first[i] - q));
                QVERIFY(nearest < 1e-4);
            }
        }
    }

    void a_linked_half_follows_the_other() {
        Random random(2702);
        Brush brush;
        brush.size = {3, 2, 1};
        brush.place.at = {4, 1, 0};
        const Copies both = mirrored(with(brush), k_a, {0, 0}, true);
        const ItemId image = both.ids[0];
        QCOMPARE(brush_of(both.level, image).place.at, Vec3(-4, 1, 0));
        Item changed = *find_item(both.level, {"a"});
        std::get<Brush>(changed.body).size.z = 2.5;
        std::get<Brush>(changed.body).place.at.x = 6;
        Level after = with_links_followed(both.level, with_changed(both.level, changed));
        QCOMPARE(brush_of(after, image).size.z, 2.5);
        QCOMPARE(brush_of(after, image).place.at, Vec3(-6, 1, 0));
        // And the other way round.
        Item other = *find_item(after, image);
        std::get<Brush>(other.body).place.at.y = 3;
        after = with_links_followed(after, with_changed(after, other));
        QCOMPARE(brush_of(after, {"a"}).place.at, Vec3(6, 3, 0));
        // Made independent, neither follows.
        const Level free = unlinked(after, k_a);
        QVERIFY(free.links.empty());
        Item alone = *find_item(free, {"a"});
        std::get<Brush>(alone.body).size.x = 1;
        QCOMPARE(brush_of(with_links_followed(free, with_changed(free, alone)), image).size.x, 3.0);
    }

    void what_hung_together_through_one_still_does_without_it() {
        Level level = with(Brush{});
        std::vector<ItemId> copies;
        for (int i = 1; i <= 3; ++i) {
            const Copies copy = linked_copies(level, k_a, {2.0 * i, 0, 0});
            level = copy.level;
            copies.push_back(copy.ids[0]);
        }
        const Level free = unlinked(level, k_a);
        QVERIFY(linked_to(free, {"a"}).empty());
        for (const ItemId& id : copies) QCOMPARE(linked_to(free, id).size(), size_t(2));
        // The same where the one in the middle is deleted.
        const Level left = with_links_followed(level, edit::without(level, k_a));
        for (const ItemId& id : copies) QCOMPARE(linked_to(left, id).size(), size_t(2));
        Item changed = *find_item(left, copies[0]);
        std::get<Brush>(changed.body).size.z = 4;
        const Level after = with_links_followed(left, with_changed(left, changed));
        for (const ItemId& id : copies) QCOMPARE(brush_of(after, id).size.z, 4.0);
    }

    void independent_copies_become_linked_ones_again() {
        LevelMaker maker;
        const ItemId first = maker.box({0, 0, 0}, {1, 2, 3}), second = maker.box({5, 0, 0}, {4, 4, 4}, 30),
                     third = maker.box({9, 0, 0}, {1, 1, 1});
        const std::vector<ItemId> ids{first, second, third};
        const auto level = linked(maker.level(), ids);
        QVERIFY(level);
        QCOMPARE(linked_to(*level, first).size(), size_t(2));
        // They take the shape of the first and keep their places.
        QCOMPARE(brush_of(*level, second).size, Vec3(1, 2, 3));
        QCOMPARE(brush_of(*level, second).place, brush_of(maker.level(), second).place);
        Item changed = *find_item(*level, third);
        std::get<Brush>(changed.body).size.z = 7;
        const Level after = with_links_followed(*level, with_changed(*level, changed));
        for (const ItemId& id : ids) QCOMPARE(brush_of(after, id).size.z, 7.0);
        QVERIFY(!linked(after, ids)); // they are already
        // Groups are linked brush by brush, and only where they hold as many.
        const auto a = grouped(maker.level(), std::vector<ItemId>{first, second});
        const auto copy = duplicated(a.level, a.ids, {0, 9, 0});
        const auto groups = linked(copy.level, std::vector<ItemId>{a.ids[0], copy.ids[0]});
        QVERIFY(groups && groups->links.size() == 2);
        QVERIFY(!linked(copy.level, std::vector<ItemId>{a.ids[0], third}));
        QVERIFY(!linked(maker.level(), std::vector<ItemId>{first}));
        QVERIFY(!linked(maker.level(), std::vector<ItemId>{first, {"none"}}));
    }

    /// What winds counter-clockwise winds clockwise in the mirror, and keeps its steps.
    void winding_shapes_stay_what_they_are_in_the_mirror() {
        Random random(2704);
        for (int round = 0; round < test::rounds(30); ++round) {
            Brush brush;
            brush.shape = random.chance(0.5) ? Shape::curved_stairs : Shape::pipe;
            brush.size = {random.stepped(3, 5, 0.25), random.stepped(3, 5, 0.25), 1.5};
            brush.angle_deg = random.stepped(30, 340, 10) * (random.chance(0.5) ? 1 : -1);
            brush.steps = 8, brush.sides = 7;
            brush.thickness_m = brush.shape == Shape::pipe && random.chance(0.5) ? 0.2 : 0;
            if (brush.shape == Shape::pipe) brush.size.z = 0.75;
            brush.place.at = {random.between(-5, 5), random.between(-5, 5), 0};
            brush.place.turn_deg = random.stepped(0, 345, 15);
            QCOMPARE(problem_of(brush), std::string());
            const MirrorPlane plane{random.whole(0, 1), random.stepped(-2, 2, 0.5)};
            const Copies both = mirrored(with(brush), k_a, plane, false);
            const Brush image = brush_of(both.level, both.ids[0]);
            QCOMPARE(image.shape, brush.shape);
            QCOMPARE(image.angle_deg, -brush.angle_deg);
            QCOMPARE(problem_of(image), std::string());
            // Each corner has its own in the mirror.
            std::vector<Vec3> seen = corners_of(image);
            for (Vec3 p : corners_of(brush)) {
                p[plane.axis] = 2 * plane.at_m - p[plane.axis];
                QVERIFY(std::any_of(seen.begin(), seen.end(),
                                    [&](const Vec3& q) { return glm::length(p - q) < 5e-6; }));
            }
            const auto facts = [](const Brush& one) {
                LevelMaker maker;
                maker.brush(one);
                return facts_of(build::surface_of(build::build_solid(maker.level())));
            };
            const auto one = facts(brush), other = facts(image);
            QVERIFY(std::abs(one.volume_m3 - other.volume_m3) < 1e-4);
            QCOMPARE(other.open_edges, size_t(0));
        }
    }

    void linked_copies_share_their_shape_and_not_their_place() {
        Brush brush;
        Level level = with(brush);
        std::vector<ItemId> all{{"a"}};
        for (int i = 1; i <= 3; ++i) {
            const Copies copy = linked_copies(level, k_a, {2.0 * i, 0, 0});
            level = copy.level;
            all.push_back(copy.ids[0]);
        }
        QCOMPARE(linked_to(level, all[2]).size(), size_t(3));
        Item changed = *find_item(level, all[2]); // one of the copies
        std::get<Brush>(changed.body).size = {1, 1, 4};
        const Level after = with_links_followed(level, with_changed(level, changed));
        for (size_t i = 0; i < all.size(); ++i) {
            QCOMPARE(brush_of(after, all[i]).size, Vec3(1, 1, 4));
            QCOMPARE(brush_of(after, all[i]).place.at, Vec3(2.0 * double(i), 0, 0));
        }
        const std::vector<ItemId> one{all[1]};
        const Level moved_one = with_links_followed(after, moved(after, one, {0, 5, 0}));
        QCOMPARE(brush_of(moved_one, all[2]).place.at.y, 0.0);
        const Level without_one = with_links_followed(after, without(after, one));
        QCOMPARE(linked_to(without_one, all[2]).size(), size_t(2));
    }

    void a_mirrored_bay_keeps_its_door() {
        Brush wall;
        wall.size = {8, 0.5, 3};
        wall.place.at = {6, 2, 0};
        Level level = with(wall);
        const auto door =
            opening_in(*find_item(level, {"a"}), {7, 1.75, 1}, {0, -1, 0}, OpeningKind::door, {});
        level = with_item_after(level, {"a"}, {{"door"}, {}, false, *door, {}});
        const Copies bay = mirrored(level, k_a, {0, 0}, true);
        QCOMPARE(bay.ids.size(), size_t(2));
        const Brush& image = brush_of(bay.level, bay.ids[1]);
        QCOMPARE(image.host, bay.ids[0]);
        QVERIFY(std::abs(image.place.at.x + 7) < 1e-9);
        // The door slid in one wall slides in the other.
        const std::vector<ItemId> own{{"door"}};
        const Level slid = with_links_followed(bay.level, moved(bay.level, own, {1, 0, 0}));
        QVERIFY(std::abs(brush_of(slid, bay.ids[1]).place.at.x + 8) < 1e-9);
        QCOMPARE(brush_of(slid, bay.ids[1]).host, bay.ids[0]);
    }
};

RUBBLE_TEST(RepeatsTest)
#include "repeats_test.moc"
