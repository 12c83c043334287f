#include <QtTest/QtTest>

#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "edit/openings.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::LevelMaker;
using test::Random;

namespace {

/// A wall of 8 × 0.5 × 3 with one opening in its near side.
struct WallWithOpening {
    Level level;
    ItemId wall{"wall"}, opening{"door"};

    explicit WallWithOpening(OpeningKind kind = OpeningKind::door, double turn_deg = 0) {
        Brush brush;
        brush.size = {8, 0.5, 3};
        brush.place.at = {3, 2, 1};
        brush.place.turn_deg = turn_deg;
        const Item host{wall, {}, false, brush, {}};
        Layer layer;
        layer.id = {"l"}, layer.items = {host};
        level.layers.push_back(layer);
        const Vec3 out = brush.place.direction({0, -1, 0});
        const auto made = opening_in(host, brush.place.to_level({1, -0.25, 1}), out, kind, Character{});
        level = with_item_after(level, wall, {opening, {}, false, *made, {}});
    }
    const Brush& cut(const Level& in) const { return *find_item(in, opening)->brush(); }
    /// The opening's place in the wall's own axes.
    Vec3 in_wall(const Level& in) const {
        return find_item(in, wall)->brush()->place.to_own(cut(in).place.at);
    }
};

} // namespace

class OpeningsTest : public QObject {
    Q_OBJECT

private slots:
    void sizes_come_from_the_character() {
        const Character c; // 1.80 high, 0.60 wide
        const OpeningSize door = opening_size(OpeningKind::door, c);
        QCOMPARE(door.width_m, 1.0);
        QCOMPARE(door.height_m, 2.1);
        Character big = c;
        big.height_m = 2.4, big.radius_m = 0.5;
        QVERIFY(opening_size(OpeningKind::door, big).height_m > door.height_m);
        QVERIFY(opening_size(OpeningKind::archway, c).width_m > door.width_m);
        QVERIFY(opening_size(OpeningKind::window, c).sill_m > c.step_height_m);
    }

    void an_opening_goes_right_through_its_wall() {
        for (const double turn : {0.0, 30.0, 90.0})
            for (const auto kind : {OpeningKind::door, OpeningKind::window, OpeningKind::archway}) {
                const WallWithOpening wall(kind, turn);
                const Brush& cut = wall.cut(wall.level);
                QCOMPARE(problem_of(cut), std::string());
                QVERIFY(std::abs(cut.size.y - 0.6) < 1e-6);
                const Vec3 own = wall.in_wall(wall.level);
                QVERIFY(std::abs(own.x - 1) < 1e-6 && std::abs(own.y) < 1e-6);
                QVERIFY(std::abs(own.z - opening_size(kind, Character{}).sill_m) < 1e-6);
            }
    }

    void walls_along_a_path_get_openings_too() {
        Brush run;
        run.shape = Shape::wall_run;
        run.points = {{0, 0}, {6, 0}, {6, 5}};
        run.thickness_m = 0.3;
        run.size.z = 3;
        run = measured(run);
        QCOMPARE(problem_of(run), std::string());
        const Item host{{"run"}, {}, false, run, {}};
        // Into the second wall, which runs along y: no thicker than the wall, and turned with it.
        const Box3 box = box_of(host);
        const Vec3 at(box.high.x, (box.low.y + box.high.y) / 2, 1);
        const auto door = opening_in(host, at, {1, 0, 0}, OpeningKind::door, Character{});
        QVERIFY(door);
        QCOMPARE(door->host.value, std::string("run"));
        const Vec3 through = door->place.direction({0, 1, 0});
        QVERIFY(std::abs(std::abs(through.x) - 1) < 1e-9);
        QVERIFY(std::abs(door->size.y - 0.4) < 1e-6);
        QVERIFY(std::abs(door->place.at.x - (box.high.x - 0.15)) < 1e-6);
    }

    void in_a_shell_it_stands_on_the_floor_of_one_wall() {
        Brush room;
        room.size = {6, 6, 3};
        room.shell_m = 0.25;
        const auto door =
            opening_in({{"r"}, {}, false, room, {}}, {0, -3, 1}, {0, -1, 0}, OpeningKind::door, {});
        QVERIFY(door);
        QCOMPARE(door->place.at.z, 0.25);
        QVERIFY(std::abs(door->size.y - 0.35) < 1e-6); // the near wall alone
        QVERIFY(!opening_in({{"r"}, {}, false, room, {}}, {0, 0, 3}, {0, 0, 1}, OpeningKind::door, {}));
    }

    void it_follows_its_wall_wherever_that_goes() {
        Random random(2601);
        for (int round = 0; round < test::rounds(100); ++round) {
            const WallWithOpening wall(OpeningKind::door, random.stepped(0, 350, 10));
            const Vec3 own = wall.in_wall(wall.level);
            Item moving = *find_item(wall.level, wall.wall);
            Placement& place = std::get<Brush>(moving.body).place;
            place.at += Vec3(random.between(-5, 5), random.between(-5, 5), random.between(-2, 2));
            if (random.chance(0.5)) place.turn_deg += random.between(-180, 180);
            if (random.chance(0.3)) place.rotation = random.rotation();
            const Level after = with_openings_following(wall.level, with_changed(wall.level, moving));
            QVERIFY(glm::length(wall.in_wall(after) - own) < 1e-6);
            // Its own axes keep their place in the wall's too.
            const Brush &was = *find_item(wall.level, wall.wall)->brush(),
                        &is = *find_item(after, wall.wall)->brush();
            const Vec3 before =
                was.place.to_own(was.place.at + wall.cut(wall.level).place.direction({1, 0, 0}));
            const Vec3 now = is.place.to_own(is.place.at + wall.cut(after).place.direction({1, 0, 0}));
            QVERIFY(glm::length(before - now) < 1e-6);
        }
    }

    void what_the_edit_moved_itself_is_not_moved_twice() {
        const WallWithOpening wall;
        const std::vector<ItemId> both{wall.wall, wall.opening};
        const Level after = with_openings_following(wall.level, moved(wall.level, both, {1, 2, 0}));
        QCOMPARE(wall.in_wall(after), wall.in_wall(wall.level));
        const std::vector<ItemId> own{wall.opening};
        const Level slid = with_openings_following(wall.level, moved(wall.level, own, {0.5, 0, 0}));
        QCOMPARE(wall.in_wall(slid), wall.in_wall(wall.level) + Vec3(0.5, 0, 0));
    }

    void copies_and_removals_take_openings_along() {
        const WallWithOpening wall;
        const std::vector<ItemId> host{wall.wall};
        const Copies copies = duplicated(wall.level, host, {0, 5, 0});
        QCOMPARE(copies.ids.size(), size_t(2));
        const Brush& copy = *find_item(copies.level, copies.ids[1])->brush();
        QCOMPARE(copy.host, copies.ids[0]);
        QCOMPARE(copy.place.at, wall.cut(wall.level).place.at + Vec3(0, 5, 0));
        QCOMPARE(wall.cut(copies.level).host, wall.wall);
        const Level gone = with_openings_following(wall.level, without(wall.level, host));
        QVERIFY(!find_item(gone, wall.opening));
    }
};

RUBBLE_TEST(OpeningsTest)
#include "openings_test.moc"
