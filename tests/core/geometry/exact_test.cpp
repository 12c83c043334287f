#include <QtTest/QtTest>

#include "core/random.h"
#include "geometry/exact.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::geometry;
using test::Random;

namespace {

TickPoint random_ticks(Random& random, int64_t size) {
    auto one = [&] { return int64_t(random.between(double(-size), double(size))); };
    return {one(), one(), one()};
}

} // namespace

class ExactTest : public QObject {
    Q_OBJECT

private slots:
    void one_plane_has_one_name() {
        PlaneTable table;
        const PlaneRef up = table.through({0, 0, 5}, {10, 0, 5}, {0, 10, 5});
        const PlaneRef down = table.through({0, 0, 5}, {0, 70, 5}, {30, 0, 5});
        QCOMPARE(up.id, down.id);
        QVERIFY(up.flipped != down.flipped);
        QVERIFY(table.normal(up) == Vec3(0, 0, 1) && table.normal(down) == Vec3(0, 0, -1));
        QVERIFY(table.through({0, 0, 6}, {10, 0, 6}, {0, 10, 6}).id != up.id);
    }

    void a_meeting_lies_on_its_planes_and_on_no_shifted_one() {
        Random random(7201);
        for (int i = 0; i < 2000; ++i) {
            // Three planes through one whole point: the meeting must be exactly it, however flat the angles.
            PlaneTable table;
            const TickPoint at = random_ticks(random, 100'000'000);
            auto beside = [&] {
                const TickPoint d = random_ticks(random, i % 2 ? 3 : 50'000'000);
                return TickPoint{at.x + d.x, at.y + d.y, at.z + d.z};
            };
            std::array<int32_t, 3> ids{};
            bool good = true;
            for (auto& id : ids) {
                const TickPoint b = beside(), c = beside();
                const glm::i64vec3 u(b.x - at.x, b.y - at.y, b.z - at.z),
                    v(c.x - at.x, c.y - at.y, c.z - at.z);
                good = good && (u.y * v.z != u.z * v.y || u.z * v.x != u.x * v.z || u.x * v.y != u.y * v.x);
                if (good) id = table.through(at, b, c).id;
            }
            if (!good) continue;
            const Vec3 n0 = table.normal({ids[0], false}), n1 = table.normal({ids[1], false}),
                       n2 = table.normal({ids[2], false});
            if (std::abs(glm::dot(n0, glm::cross(n1, n2))) < 1e-12) continue;
            const Corner corner = table.meet(ids[0], ids[1], ids[2]);
            QVERIFY(table.rounded(corner) == at);
            // Planes through the point and beside it.
            const TickPoint p = random_ticks(random, 100'000'000), q = random_ticks(random, 100'000'000);
            const int32_t through = table.through(at, p, q).id;
            QVERIFY(table.side(corner, through) == Side::on);
            const PlaneRef above = table.through({0, 0, at.z + 1}, {1000, 0, at.z + 1}, {0, 1000, at.z + 1});
            const PlaneRef level = table.through({0, 0, at.z}, {1000, 0, at.z}, {0, 1000, at.z});
            QVERIFY(table.side(corner, above) == Side::back);
            QVERIFY(table.side(corner, level) == Side::on);
        }
    }

    void equal_points_are_one_however_they_came_about() {
        PlaneTable table;
        const auto x = table.through({7, 0, 0}, {7, 1, 0}, {7, 0, 1}),
                   y = table.through({0, 9, 0}, {0, 9, 1}, {1, 9, 0}),
                   z = table.through({0, 0, 4}, {1, 0, 4}, {0, 1, 4});
        const auto slope = table.through({7, 9, 4}, {8, 9, 5}, {7, 10, 4});
        const auto far = table.through({7, 9, 4}, {1000000, 3, 99}, {5, 2000000, 77});
        const Corner plain = table.meet(x.id, y.id, z.id), other = table.meet(slope.id, y.id, far.id);
        QVERIFY(table.same(plain, other) && table.same(other, plain));
        QVERIFY(table.rounded(other) == (TickPoint{7, 9, 4}));
        const auto z5 = table.through({0, 0, 5}, {1, 0, 5}, {0, 1, 5});
        QVERIFY(!table.same(plain, table.meet(x.id, y.id, z5.id)));
    }

    void planes_that_share_a_line_give_it_one_name() {
        Random random(1204);
        auto tick = [&] { return int64_t(random.whole(-2'000'000, 2'000'000)); };
        for (int n = 0; n < test::rounds(200); ++n) {
            PlaneTable table;
            const TickPoint p{tick(), tick(), tick()}, q{tick(), tick(), tick()};
            std::vector<int32_t> planes;
            for (int k = 0; k < 4; ++k) planes.push_back(table.through(p, q, {tick(), tick(), tick()}).id);
            const LineName name = table.line(planes[0], planes[1]);
            QVERIFY(table.line(planes[1], planes[0]) == name);
            QVERIFY(table.line(planes[2], planes[3]) == name);
            QVERIFY(table.line(planes[0], planes[3]) == name);
            const int32_t other = table.through(p, {tick(), tick(), tick()}, {tick(), tick(), tick()}).id;
            QVERIFY(!(table.line(planes[0], other) == name));
        }
    }

    /// Lines of planes along the axes are named on a way of their own: it gives the name that slanting planes
    /// through the same line have.
    void lines_along_axes_have_the_names_of_all_lines() {
        Random random(1206);
        for (int n = 0; n < test::rounds(200); ++n) {
            PlaneTable table;
            std::array<int64_t, 3> at{random.whole(-9'000, 9'000), random.whole(-9'000, 9'000),
                                      random.whole(-9'000, 9'000)};
            const int i = random.whole(0, 2), k = (i + random.whole(1, 2)) % 3, along = 3 - i - k;
            const int32_t a = table.across(i, at[size_t(i)]), b = table.across(k, at[size_t(k)]);
            const LineName name = table.line(a, b);
            QVERIFY(table.line(b, a) == name);
            // Two planes through the line that lie along no axis.
            const auto on_line = [&](int64_t place) {
                std::array<int64_t, 3> p = at;
                p[size_t(along)] = place;
                return TickPoint{p[0], p[1], p[2]};
            };
            std::vector<int32_t> slanting;
            for (const int64_t rise : {3, -7}) {
                std::array<int64_t, 3> p = at;
                p[size_t(i)] += 5, p[size_t(k)] += rise;
                slanting.push_back(table.through(on_line(0), on_line(1'000), {p[0], p[1], p[2]}).id);
            }
            QVERIFY(table.line(slanting[0], slanting[1]) == name);
            QVERIFY(table.line(a, slanting[1]) == name);
            QVERIFY(!(table.line(a, table.across(k, at[size_t(k)] + 1)) == name));
        }
    }

    void any_multiple_of_a_plane_is_that_plane() {
        Random random(1207);
        for (int n = 0; n < test::rounds(200); ++n) {
            PlaneTable table;
            const auto tick = [&] { return int64_t(random.whole(-2'000'000, 2'000'000)); };
            const TickPoint a{tick(), tick(), tick()}, b{tick(), tick(), tick()}, c{tick(), tick(), tick()};
            const PlaneRef plane = table.through(a, b, c);
            geometry::Plane many = geometry::plane_through(a, b, c);
            const int64_t times = random.whole(2, 9);
            many.nx *= times, many.ny *= times, many.nz *= times, many.d *= times;
            QVERIFY(table.facing(many) == plane);
            many.nx = -many.nx, many.ny = -many.ny, many.nz = -many.nz, many.d = -many.d;
            QVERIFY(table.facing(many) == (PlaneRef{plane.id, !plane.flipped}));
        }
    }

    void sides_of_many_corners_are_those_of_each() {
        Random random(1208);
        for (int n = 0; n < test::rounds(100); ++n) {
            PlaneTable table;
            std::vector<int32_t> planes;
            for (int axis = 0; axis < 3; ++axis)
                for (int k = 0; k < 3; ++k) planes.push_back(table.across(axis, random.whole(-50, 50)));
            const auto tick = [&] { return int64_t(random.whole(-60, 60)); };
            const PlaneRef slope = table.through({tick(), tick(), tick()}, {tick() + 200, tick(), tick()},
                                                 {tick(), tick() + 300, tick()});
            std::vector<Corner> corners;
            for (int k = 0; k < 9; ++k)
                corners.push_back(table.meet(planes[size_t(k % 3)], planes[size_t(3 + k / 3)],
                                             k % 2 ? planes[6] : slope.id));
            for (const PlaneRef plane : {slope, PlaneRef{planes[8], true}, PlaneRef{planes[0], false}})
                table.for_sides(
                    plane, corners.size(), [&](size_t i) -> const Corner& { return corners[i]; },
                    [&](size_t i, Side side) { QVERIFY(side == table.side(corners[i], plane)); });
        }
    }

    void metres_and_ticks_map_both_ways() {
        QVERIFY(to_ticks({0.0001, -1.0625, 9999.9999}) == (TickPoint{100, -1062500, 9999999900}));
        QCOMPARE(to_metres({250000, 0, -1}), Vec3(0.25, 0, -1e-6));
    }
};

RUBBLE_TEST(ExactTest)
#include "exact_test.moc"
