#include <QtTest/QtTest>

#include <map>
#include <set>

#include "core/random.h"
#include "geometry/space_grid.h"
#include "geometry/space_order.h"
#include "test_program.h"

using namespace rubble;
using geometry::SpaceGrid;
using test::Random;

namespace {

Box3 random_box(Random& random) {
    const Vec3 low(random.between(-20, 20), random.between(-20, 20), random.between(-5, 5));
    const double size = random.chance(0.05) ? 60 : 4;
    return {low, low + Vec3(random.between(0, size), random.between(0, size), random.between(0, size))};
}

} // namespace

class SpaceGridTest : public QObject {
    Q_OBJECT

private slots:
    void it_finds_what_comparing_with_everything_finds() {
        Random random(3301);
        for (const double cell : {0.5, 3.0, 40.0}) {
            SpaceGrid<int> grid(cell);
            std::map<int, Box3> boxes;
            for (int i = 0; i < 300; ++i) {
                boxes[i] = random_box(random);
                grid.add(i, boxes[i]);
            }
            for (int round = 0; round < test::rounds(300); ++round) {
                if (round % 3 == 0) { // one goes, another comes
                    const int gone = boxes.begin()->first, fresh = 300 + round;
                    grid.remove(gone, boxes[gone]);
                    boxes.erase(gone);
                    boxes[fresh] = random_box(random);
                    grid.add(fresh, boxes[fresh]);
                }
                const Box3 area = random_box(random);
                std::multiset<int> found;
                grid.for_touching(area, [&](int i) { found.insert(i); });
                std::multiset<int> expected;
                for (const auto& [i, box] : boxes)
                    if (box.touches(area)) expected.insert(i);
                QCOMPARE(found, expected); // each once
            }
        }
    }

    void boxes_that_only_touch_are_found() {
        SpaceGrid<int> grid(1);
        grid.add(1, {Vec3(0), Vec3(1)});
        int found = 0;
        grid.for_touching({Vec3(1), Vec3(2)}, [&](int) { ++found; });
        QCOMPARE(found, 1);
        grid.for_touching({Vec3(1.001), Vec3(2)}, [&](int) { ++found; });
        QCOMPARE(found, 1);
    }

    void what_is_empty_is_nowhere() {
        SpaceGrid<int> grid(1);
        grid.add(1, Box3{});
        grid.remove(1, Box3{});
        int found = 0;
        grid.for_touching({Vec3(-100), Vec3(100)}, [&](int) { ++found; });
        QCOMPARE(found, 0);
    }

    void along_the_curve_each_octant_comes_as_a_whole() {
        Random random(3302);
        std::vector<Vec3> places;
        for (int x = -4; x < 4; ++x)
            for (int y = -4; y < 4; ++y)
                for (int z = -4; z < 4; ++z)
                    places.push_back(Vec3(x, y, z) + Vec3(random.between(0, 0.99), random.between(0, 0.99),
                                                          random.between(0, 0.99)));
        std::shuffle(places.begin(), places.end(), std::mt19937_64(7));
        geometry::sort_along_curve(places, [](const Vec3& p) { return p; });
        // 512 places: each run of 8, 64 and so on that begins at a multiple of itself fills one cube.
        for (const size_t run : {1, 8, 64, 512})
            for (size_t first = 0; first < places.size(); first += run) {
                Box3 box;
                for (size_t i = first; i < first + run; ++i) box.add(glm::floor(places[i]));
                const double edge = std::cbrt(double(run)) - 1;
                QCOMPARE(box.high - box.low, Vec3(edge));
            }
        // What is farther out than the curve goes is put at its ends.
        QVERIFY(geometry::number_along_curve({1e9, 0, 0}) > geometry::number_along_curve({100, 0, 0}));
        QVERIFY(geometry::number_along_curve({-1e9, 0, 0}) < geometry::number_along_curve({-100, 0, 0}));
    }
};

RUBBLE_TEST(SpaceGridTest)
#include "space_grid_test.moc"
