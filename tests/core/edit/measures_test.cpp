#include <QtTest/QtTest>

#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "edit/measures.h"
#include "edit/openings.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::LevelMaker;
using test::Random;

namespace {

Brush room(Vec3 size, double wall) {
    Brush brush;
    brush.size = size;
    brush.shell_m = wall;
    return brush;
}

std::vector<Departure> of(const std::vector<Departure>& all, Measure measure) {
    std::vector<Departure> out;
    std::copy_if(all.begin(), all.end(), std::back_inserter(out),
                 [&](const Departure& d) { return d.measure == measure; });
    return out;
}

} // namespace

class MeasuresTest : public QObject {
    Q_OBJECT

private slots:
    void walls_of_every_kind_are_told_by_their_thickness() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {0.25, 6, 3}); // as agreed
        const ItemId thick = maker.box({5, 0, 0}, {6, 0.4, 3});
        maker.box({20, 0, 0}, {4, 4, 1});     // no wall
        maker.box({30, 0, 0}, {6, 0.4, 0.4}); // a beam
        const ItemId shell = maker.brush(room({6, 6, 3.6}, 0.3));
        Brush run;
        run.shape = Shape::wall_run;
        run.points = {{-2, 0}, {2, 0}};
        run.thickness_m = 0.2, run.size = {4, 0.2, 3};
        const ItemId along = maker.brush(run);
        const auto walls = of(departures({}, maker.level()), Measure::wall);
        QCOMPARE(walls.size(), size_t(3));
        QCOMPARE(walls[0].item, thick);
        QCOMPARE(walls[0].is_m, 0.4);
        QCOMPARE(walls[1].item, shell);
        QCOMPARE(walls[2].item, along);
        // A wall run's size follows its thickness, so that a file that is opened again holds the same.
        const Level agreed = as_agreed(maker.level(), walls);
        const Brush& after = *find_item(agreed, along)->brush();
        QCOMPARE(after.thickness_m, Measures{}.wall_m);
        QVERIFY(after.size == measured(after).size && after.size.y == after.thickness_m);
    }

    void doors_are_as_high_as_agreed_and_as_the_character_needs() {
        Project project;
        project.measures.door_m = 2.4;
        LevelMaker maker;
        const ItemId host = maker.box({0, 0, 0}, {6, 0.25, 3});
        Level level = maker.level();
        const auto door = opening_in(*find_item(level, host), {0, -0.125, 1}, {0, -1, 0}, OpeningKind::door,
                                     {}, project.measures);
        QVERIFY(door);
        QCOMPARE(door->size.z, 2.4);
        level = with_item_after(level, host, {{"d"}, "Door", false, *door, {}});
        QVERIFY(of(departures(project, level), Measure::door).empty());
        project.measures.door_m = 2.2;
        const auto high = of(departures(project, level), Measure::door);
        QCOMPARE(high.size(), size_t(1));
        QCOMPARE(high[0].agreed_m, 2.2);
        Character tall;
        tall.height_m = 2.5;
        QVERIFY(door_height(project.measures, tall) >= 2.5);
    }

    void what_is_changed_over_is_as_agreed_and_rooms_keep_their_height() {
        Random random(2901);
        for (int n = 0; n < test::rounds(40); ++n) {
            LevelMaker maker;
            for (int i = 0; i < 12; ++i) {
                const Vec3 at(i * 20.0, 0, random.stepped(0, 4, 0.5));
                if (random.chance(0.5)) {
                    maker.box(at, {random.between(0.1, 0.55), random.between(3, 8), random.between(2, 5)},
                              random.between(0, 360));
                } else {
                    Brush shell = room({random.between(3, 8), random.between(3, 8), random.between(2.5, 5)},
                                       random.between(0.1, 0.5));
                    shell.place.at = at;
                    if (random.chance(0.3)) shell.open_sides = {BoxSide::top};
                    maker.brush(shell);
                }
            }
            Project project;
            project.measures.wall_m = random.between(0.1, 0.5);
            project.measures.ceiling_m = random.between(2, 4);
            const Level level = maker.level();
            const auto before = departures(project, level);
            const auto walls = of(before, Measure::wall);
            const Level thin = as_agreed(level, walls);
            QVERIFY(of(departures(project, thin), Measure::wall).empty());
            const auto rooms = of(before, Measure::ceiling),
                       still = of(departures(project, thin), Measure::ceiling);
            QCOMPARE(still.size(), rooms.size());
            for (size_t i = 0; i < rooms.size(); ++i) QVERIFY(std::abs(rooms[i].is_m - still[i].is_m) < 1e-9);
            const auto left = departures(project, as_agreed(level, before));
            QVERIFY(of(left, Measure::wall).empty() && of(left, Measure::ceiling).empty());
        }
    }

    void corridors_are_measured_between_walls_with_nothing_between() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {0.25, 6, 3}), b = maker.box({1.25, 0, 0}, {0.25, 6, 3});
        const auto narrow = of(departures({}, maker.level()), Measure::corridor);
        QCOMPARE(narrow.size(), size_t(1));
        QCOMPARE(narrow[0].item, a);
        QCOMPARE(narrow[0].other, b);
        QVERIFY(std::abs(narrow[0].is_m - 1.0) < 1e-9);
        LevelMaker filled = maker;
        filled.box({0.625, 0, 0}, {0.9, 6, 3});
        QVERIFY(of(departures({}, filled.level()), Measure::corridor).empty());
        LevelMaker wide;
        wide.box({0, 0, 0}, {0.25, 6, 3}), wide.box({1.5, 0, 0}, {0.25, 6, 3});
        QVERIFY(of(departures({}, wide.level()), Measure::corridor).empty());
    }

    void overlaps_are_those_of_a_slip() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 1}), maker.box({3.95, 0, 0}, {4, 4, 1});
        maker.box({20, 0, 0}, {4, 4, 1}), maker.box({24, 0, 0}, {4, 4, 1}); // side by side
        maker.box({40, 0, 0}, {4, 4, 1}), maker.box({41, 0, 0}, {4, 4, 1}); // meant
        const auto found = of(departures({}, maker.level()), Measure::overlap);
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(std::abs(found[0].is_m - 0.05) < 1e-9);
        QVERIFY(!found[0].can_follow());
        Project project;
        project.measures.overlap_m = 0.05;
        QVERIFY(of(departures(project, maker.level()), Measure::overlap).empty());
    }
};

RUBBLE_TEST(MeasuresTest)
#include "measures_test.moc"
