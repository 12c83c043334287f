#include <QtTest/QtTest>

#include "core/random.h"
#include "edit/items.h"
#include "edit/working_plane.h"
#include "level/turning.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::Random;

namespace {

Placement any_placement(Random& random) {
    Placement place;
    place.at = {random.between(-5, 5), random.between(-5, 5), random.between(-5, 5)};
    place.turn_deg = random.between(-180, 180);
    if (random.chance(0.5)) place.rotation = random.rotation();
    return place;
}

Vec3 any_axis(Random& random) {
    const Rotation turn = random.rotation();
    return Placement{Vec3(0), 0, turn}.direction({1, 0, 0});
}

bool near(const Vec3& a, const Vec3& b) { return glm::length(a - b) < 1e-9; }

} // namespace

class TurningTest : public QObject {
    Q_OBJECT

private slots:
    /// Of two ways to be turned one counts, and files tell that one.
    void what_is_turned_freely_is_turned_in_no_other_way() {
        Placement place;
        place.turn_deg = 30;
        QCOMPARE(turned_about(place, {0, 0, 0}, {1, 0, 0}, 90).turn_deg, 0.0);
        Brush brush;
        brush.place.turn_deg = 90; // a quarter turned while it was drawn
        edit::WorkingPlane plane;
        plane.u = {0, 1, 0}, plane.v = {0, 0, 1}, plane.n = {1, 0, 0};
        const Brush placed = edit::placed_on(brush, plane);
        QVERIFY(placed.place.rotation.has_value());
        QCOMPARE(placed.place.turn_deg, 0.0);
        QVERIFY(glm::length(placed.place.direction({1, 0, 0}) - Vec3(0, 0, 1)) < 1e-12);
    }

    void what_is_turned_goes_round_the_axis() {
        Random random(3301);
        for (int round = 0; round < test::rounds(300); ++round) {
            const Placement place = any_placement(random);
            const Vec3 about(random.between(-3, 3), random.between(-3, 3), random.between(-3, 3));
            const Vec3 axis = any_axis(random), own(random.between(-2, 2), 1, random.between(-2, 2));
            const double deg = random.between(-179, 179);
            const Vec3 was = place.to_level(own) - about;
            const Vec3 now = turned_about(place, about, axis, deg).to_level(own) - about;
            // As high along the axis and as far from it, by the angle further round it.
            QVERIFY(std::abs(glm::dot(now - was, axis)) < 1e-9);
            const Vec3 a = was - axis * glm::dot(was, axis), b = now - axis * glm::dot(now, axis);
            QVERIFY(std::abs(glm::length(a) - glm::length(b)) < 1e-9);
            const double turned = std::atan2(glm::dot(glm::cross(a, b), axis), glm::dot(a, b));
            QVERIFY(std::abs(std::remainder(degrees(turned) - deg, 360.0)) < 1e-6);
            // And back.
            const Placement back = turned_about(turned_about(place, about, axis, deg), about, axis, -deg);
            QVERIFY(near(back.to_level(own), place.to_level(own)));
        }
    }

    void what_stands_upright_stays_so_and_on_the_grid() {
        const Placement place{{3, 1, 0.5}, 30, {}};
        const Placement quarter = turned_about(place, {1, 1, 7}, {0, 0, 1}, 90);
        QCOMPARE(quarter.at, Vec3(1, 3, 0.5));
        QCOMPARE(quarter.turn_deg, 120.0);
        QVERIFY(!quarter.rotation);
        QCOMPARE(turned_about(place, {1, 1, 0}, {0, 0, -1}, 90).turn_deg, -60.0);
        QVERIFY(turned_about(place, {0, 0, 0}, {1, 0, 0}, 90).rotation.has_value());
    }

    void turns_are_put_one_after_the_other() {
        Random random(3302);
        for (int round = 0; round < test::rounds(100); ++round) {
            const Rotation first = random.rotation(), then = random.rotation();
            const Vec3 way = any_axis(random);
            const auto turn = [](const Rotation& by, const Vec3& v) {
                return Placement{Vec3(0), 0, by}.direction(v);
            };
            QVERIFY(near(turn(turned_by(then, first), way), turn(then, turn(first, way))));
        }
    }

    void items_turn_with_all_they_hold() {
        Random random(3303);
        Brush brush;
        brush.place = any_placement(random);
        Item group{{"g"},
                   {},
                   false,
                   Group{{Item{{"b"}, {}, false, brush, {}},
                          Item{{"e"}, {}, false, Element{"place", {1, 0, 0}, 10, {}}, {}}}},
                   {}};
        const Item turned = transformed(group, Transform::turning({0, 0, 0}, 90));
        QCOMPARE(turned.group()->items[1]->element()->at, Vec3(0, 1, 0));
        QCOMPARE(turned.group()->items[1]->element()->facing_deg, 100.0);
        const Vec3 was = brush.place.to_level({1, 2, 3});
        QVERIFY(near(turned.group()->items[0]->brush()->place.to_level({1, 2, 3}), {-was.y, was.x, was.z}));
    }
};

RUBBLE_TEST(TurningTest)
#include "turning_test.moc"
