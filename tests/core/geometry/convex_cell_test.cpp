#include <QtTest/QtTest>

#include "core/random.h"
#include "geometry/convex_cell.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::geometry;
using test::Random;

namespace {

ConvexCell box_cell(const Vec3& low, const Vec3& high) {
    auto corner = [&](int i) {
        return Vec3(i & 1 ? high.x : low.x, i & 2 ? high.y : low.y, i & 4 ? high.z : low.z);
    };
    ConvexCell cell;
    const std::vector<std::vector<int>> loops{{0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4},
                                              {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}};
    const Vec3 normals[] = {{-1, 0, 0}, {1, 0, 0}, {0, -1, 0}, {0, 1, 0}, {0, 0, -1}, {0, 0, 1}};
    for (size_t f = 0; f < loops.size(); ++f) {
        ConvexCell::Face face;
        for (int i : loops[f]) face.loop.push_back(corner(i));
        face.plane = {normals[f], -glm::dot(normals[f], face.loop[0])};
        cell.faces.push_back(face);
    }
    return cell;
}

HalfSpace random_plane(Random& random, const Vec3& through) {
    Vec3 n(0);
    while (glm::length(n) < 0.1) n = {random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)};
    n = glm::normalize(n);
    return {n, -glm::dot(n, through)};
}

Vec3 random_point(Random& random, double size) {
    return {random.between(-size, size), random.between(-size, size), random.between(-size, size)};
}

/// Faces look outward and have their corners in their plane.
void well_formed(const ConvexCell& cell) {
    for (const auto& face : cell.faces) {
        QVERIFY(face.loop.size() >= 3);
        for (const Vec3& p : face.loop) QVERIFY(std::abs(face.plane.distance(p)) < 1e-7);
        const Vec3 turn = glm::cross(face.loop[1] - face.loop[0], face.loop[2] - face.loop[0]);
        QVERIFY(glm::dot(turn, face.plane.normal) > -1e-9);
    }
}

} // namespace

class ConvexCellTest : public QObject {
    Q_OBJECT

private slots:
    void a_box_has_its_volume() {
        const ConvexCell cell = box_cell({-1, 0, 2}, {2, 5, 4});
        QVERIFY(std::abs(cell.volume() - 30) < 1e-12);
        QCOMPARE(cell.box().high, Vec3(2, 5, 4));
        well_formed(cell);
    }

    void both_sides_of_a_plane_are_the_whole() {
        Random random(1301);
        for (int n = 0; n < test::rounds(200); ++n) {
            const ConvexCell cell = box_cell({-1, -1, -1}, {1, 2, 1});
            const HalfSpace plane = random_plane(random, random_point(random, 0.9));
            const ConvexCell below = clipped(cell, plane), above = clipped(cell, plane.opposite());
            well_formed(below), well_formed(above);
            QVERIFY(std::abs(below.volume() + above.volume() - cell.volume()) < 1e-9);
        }
    }

    void a_plane_that_misses_keeps_all_or_nothing() {
        const ConvexCell cell = box_cell({0, 0, 0}, {1, 1, 1});
        QVERIFY(std::abs(clipped(cell, {{0, 0, 1}, -5}).volume() - 1) < 1e-12);
        QVERIFY(clipped(cell, {{0, 0, 1}, 5}).empty());
        QVERIFY(clipped(cell, {{0, 0, -1}, 1}).empty()); // touches the top only
    }

    void what_is_left_and_what_is_taken_is_the_whole() {
        Random random(1302);
        for (int n = 0; n < test::rounds(200); ++n) {
            const ConvexCell cell = box_cell({-1, -1, -1}, {1, 1, 1});
            // The cutter: a box cut by two slanting planes.
            const Vec3 low = random_point(random, 1.2),
                       size(random.between(0.2, 2), random.between(0.2, 2), random.between(0.2, 2));
            ConvexCell cutter = box_cell(low, low + size);
            for (int k = 0; k < 2; ++k) {
                const ConvexCell part = clipped(cutter, random_plane(random, low + size * 0.5));
                if (!part.empty()) cutter = part;
            }
            ConvexCell common = cell;
            for (const auto& face : cutter.faces)
                if (!common.empty()) common = clipped(common, face.plane);
            double left = 0;
            for (const auto& piece : subtracted(cell, cutter)) {
                well_formed(piece);
                left += piece.volume();
                // No piece reaches into the cutter.
                const Vec3 middle = [&] {
                    Vec3 sum(0);
                    size_t count = 0;
                    for (const auto& face : piece.faces)
                        for (const Vec3& p : face.loop) sum += p, ++count;
                    return sum / double(count);
                }();
                QVERIFY(std::any_of(cutter.faces.begin(), cutter.faces.end(),
                                    [&](const auto& face) { return face.plane.distance(middle) > -1e-9; }));
            }
            const double taken = common.empty() ? 0 : common.volume();
            QVERIFY2(std::abs(left + taken - cell.volume()) < 1e-6,
                     qPrintable(QString::number(left + taken)));
        }
    }
};

RUBBLE_TEST(ConvexCellTest)
#include "convex_cell_test.moc"
