#include <QtTest/QtTest>

#include "core/level_maker.h"
#include "edit/working_plane.h"
#include "level/brush_shape.h"
#include "level/neighbours.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;

class NeighboursTest : public QObject {
    Q_OBJECT

private slots:
    void the_nearest_fill_each_way_is_told_with_its_distance() {
        LevelMaker maker;
        const ItemId own = maker.box({0, 0, 0}, {2, 2, 2});
        maker.box({8, 0, 0}, {2, 2, 2});
        const ItemId right = maker.box({4, 0.5, 0}, {2, 2, 2});
        maker.cut({2, 0, 0}, {1, 1, 1});  // no matter
        maker.box({0, 20, 0}, {2, 2, 2}); // too far
        maker.box({-3, 4, 0}, {2, 2, 2}); // beside nothing
        maker.box({0, 0, -1}, {9, 9, 1}); // touches it from below
        const Level level = maker.level();
        const auto found = neighbours_of(level, {own}, box_of(*find_item(level, own)), 8);
        QCOMPARE(found.size(), size_t(1));
        QCOMPARE(found[0].item, right);
        QCOMPARE(found[0].gap_m, 2.0);
        QCOMPARE(found[0].from, Vec3(1, 0.25, 1));
        QCOMPARE(found[0].to, Vec3(3, 0.25, 1));
    }

    void sides_in_one_plane_are_told() {
        LevelMaker maker;
        const ItemId own = maker.box({0, 0, 0}, {2, 2, 2});
        const ItemId beside = maker.box({5, 0.5, 0}, {2, 1, 1}); // away sides and bases are in one plane
        maker.box({9, 0, 0}, {2, 2, 2});                         // so they are here, but farther away
        const Level level = maker.level();
        const auto found = equal_edges(level, {own}, box_of(*find_item(level, own)), 20);
        QCOMPARE(found.size(), size_t(4)); // near and top of the farther one
        int of_beside = 0;
        for (const EqualEdge& edge : found) of_beside += edge.item == beside;
        QCOMPARE(of_beside, 2);
        QVERIFY(equal_edges(level, {own}, box_of(*find_item(level, own)), 2).empty());
    }

    /// There and back through a plane's axes leaves rounding behind; it must not come into files.
    void what_is_drawn_has_plain_coordinates() {
        for (int i = -40; i <= 40; ++i)
            for (const Vec3 normal : {Vec3(0, 0, 1), Vec3(1, 0, 0), Vec3(0, -1, 0)}) {
                const Vec3 wanted(0.1 * i, 0.3 * i, -0.7 * i);
                const auto plane = edit::plane_of_face({0.1, 0.2, 0.3}, normal);
                Brush brush;
                brush.place.at = plane.to_own(wanted);
                brush.size = Vec3(1) + Vec3(1e-13);
                brush = edit::placed_on(brush, plane);
                for (int axis = 0; axis < 3; ++axis)
                    QCOMPARE(brush.place.at[axis], std::round(wanted[axis] * 1e6) / 1e6);
                QCOMPARE(brush.size, Vec3(1));
                QCOMPARE(edit::without_noise({-1.5000000000000002, 0.25, 3}), Vec3(-1.5, 0.25, 3));
            }
    }

    void a_brush_drawn_on_a_face_stands_out_of_it() {
        for (const Vec3 normal :
             {Vec3(0, 0, 1), Vec3(1, 0, 0), Vec3(0, -1, 0), glm::normalize(Vec3(1, 2, 0.5))}) {
            const auto plane = edit::plane_of_face({1, 2, 3}, normal);
            QVERIFY(glm::length(plane.n - normal) < 1e-12);
            QVERIFY(std::abs(plane.u.z) < 1e-12);
            QVERIFY(glm::length(glm::cross(plane.u, plane.v) - plane.n) < 1e-12);
            const Vec3 place(4, -5, 6);
            QVERIFY(glm::length(plane.to_own(plane.to_level(place)) - place) < 1e-9);
            Brush brush;
            brush.size = {2, 1, 3};
            brush.place.at = {5, 6, 0};
            brush = edit::placed_on(brush, plane);
            QCOMPARE(problem_of(brush), std::string());
            Box3 own;
            for (const Vec3& corner : corners_of(brush)) own.add(plane.to_own(corner));
            QVERIFY(glm::length(own.low - Vec3(4, 5.5, 0)) < 1e-5);
            QVERIFY(glm::length(own.high - Vec3(6, 6.5, 3)) < 1e-5);
        }
        QVERIFY(edit::plane_of_face({0, 0, 0}, {0, 0, -1}).is_level()); // from below, it is the same plane
    }
};

RUBBLE_TEST(NeighboursTest)
#include "neighbours_test.moc"
