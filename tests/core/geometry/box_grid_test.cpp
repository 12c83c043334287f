#include <QtTest/QtTest>

#include <algorithm>

#include "core/random.h"
#include "geometry/box_grid.h"
#include "test_program.h"

using namespace rubble;
using geometry::BoxGrid;
using test::Random;

class BoxGridTest : public QObject {
    Q_OBJECT

private slots:
    void finds_each_touching_box_once_and_no_other() {
        Random random(202);
        for (int n = 0; n < test::rounds(40); ++n) {
            std::vector<Box2> boxes;
            for (int i = 0; i < 60; ++i) {
                const Vec2 low(random.between(-30, 30), random.between(-30, 30));
                // Some cover so many cells that they are kept apart.
                const double most = random.chance(0.1) ? 80 : 5;
                boxes.push_back({low, low + Vec2(random.between(0, most), random.between(0, most))});
            }
            const BoxGrid grid(boxes);
            for (int k = 0; k < 20; ++k) {
                const Vec2 low(random.between(-40, 40), random.between(-40, 40));
                const Box2 area{low, low + Vec2(random.between(0, 20), random.between(0, 20))};
                std::vector<int> found, expected;
                grid.for_near(area, [&](int i) { found.push_back(i); });
                for (int i = 0; i < int(boxes.size()); ++i)
                    if (boxes[size_t(i)].touches(area)) expected.push_back(i);
                std::sort(found.begin(), found.end());
                QCOMPARE(found, expected);
            }
        }
    }

    void far_places_are_places_too() {
        const Box2 box{{9'000, -9'000}, {9'001, -8'999}};
        const BoxGrid grid({box});
        int found = 0;
        grid.for_near(box.grown(0.5), [&](int) { ++found; });
        grid.for_near({{0, 0}, {1, 1}}, [&](int) { ++found; });
        QCOMPARE(found, 1);
    }

    void nothing_is_found_in_an_empty_one() {
        BoxGrid().for_near({{-5, -5}, {5, 5}}, [](int) { QFAIL("found a box where there is none"); });
    }
};

RUBBLE_TEST(BoxGridTest)
#include "box_grid_test.moc"
