#include <QtTest/QtTest>

#include "core/random.h"
#include "geometry/thinning.h"
#include "test_program.h"

using namespace rubble;
using geometry::Raster;
using test::Random;

namespace {

/// Pixels that hang together along their sides (or, of what is not set, along corners too), counted as areas.
int areas(const Raster& raster, bool set) {
    // What is not set goes on around the raster.
    const int columns = raster.columns + 2, rows = raster.rows + 2;
    std::vector<char> seen(size_t(columns) * size_t(rows), 0);
    const auto is = [&](int column, int row) { return raster.at(column - 1, row - 1) == set; };
    int count = 0;
    for (int first = 0; first < columns * rows; ++first) {
        if (seen[size_t(first)] || !is(first % columns, first / columns)) continue;
        ++count;
        std::vector<int> open{first};
        seen[size_t(first)] = 1;
        while (!open.empty()) {
            const int at = open.back();
            open.pop_back();
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int column = at % columns + dx, row = at / columns + dy;
                    if (set && dx != 0 && dy != 0) continue;
                    if (column < 0 || row < 0 || column >= columns || row >= rows || !is(column, row))
                        continue;
                    const int next = row * columns + column;
                    if (!seen[size_t(next)]) seen[size_t(next)] = 1, open.push_back(next);
                }
        }
    }
    return count;
}

} // namespace

/// Middle lines of pixel areas.
class ThinningTest : public QObject {
    Q_OBJECT
private slots:
    void nothing_comes_apart_and_no_hole_closes() {
        Random random(6171);
        for (int round = 0; round < test::rounds(300); ++round) {
            Raster raster{random.whole(1, 40), random.whole(1, 30), {}};
            raster.set.assign(size_t(raster.columns) * size_t(raster.rows), 0);
            for (int i = random.whole(1, 12); i-- > 0;) { // boxes, some of them holes
                const int left = random.whole(0, raster.columns - 1), top = random.whole(0, raster.rows - 1);
                const uint8_t set = random.whole(0, 3) > 0;
                for (int row = top; row < std::min(raster.rows, top + random.whole(1, 12)); ++row)
                    for (int column = left; column < std::min(raster.columns, left + random.whole(1, 12));
                         ++column)
                        raster.set[raster.index(column, row)] = set;
            }
            const Raster lines = geometry::thinned(raster);
            for (size_t i = 0; i < lines.set.size(); ++i) QVERIFY(lines.set[i] <= raster.set[i]);
            QCOMPARE(areas(lines, true), areas(raster, true));
            QCOMPARE(areas(lines, false), areas(raster, false));
            QVERIFY(geometry::thinned(lines).set == lines.set);
        }
    }

    void a_bar_becomes_its_middle_line() {
        Raster raster{20, 7, std::vector<uint8_t>(140, 0)};
        for (int row = 1; row < 6; ++row)
            for (int column = 1; column < 19; ++column) raster.set[raster.index(column, row)] = 1;
        const Raster lines = geometry::thinned(raster);
        for (int column = 5; column < 15; ++column)
            for (int row = 0; row < 7; ++row) QCOMPARE(lines.at(column, row), row == 3);
    }
};

RUBBLE_TEST(ThinningTest)
#include "thinning_test.moc"
