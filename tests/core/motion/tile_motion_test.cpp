#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "motion/recording.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::Random;
using test::tile_level;

namespace {

World tile_world(const Level& level) { return motion::world_of(build::build_solid(level)); }

State after(const World& world, const Character& c, State s, const Input& input, int steps) {
    for (int i = 0; i < steps; ++i) s = step(world, c, s, input);
    return s;
}

/// Long ground, a slope up over some tiles, a level stretch, and the same slope down.
std::vector<std::string> hill(int tiles, bool gentle) {
    const int rows = gentle ? (tiles + 1) / 2 : tiles;
    const int steps = gentle ? rows * 2 : rows;
    std::vector<std::string> drawing;
    for (int row = 0; row < rows; ++row) {
        std::string line(30, ' ');
        const int before = gentle ? (rows - 1 - row) * 2 : rows - 1 - row;
        line += std::string(size_t(before), ' ');
        line += gentle ? "ab" : "/";
        line += std::string(size_t(2 * (steps - before - (gentle ? 2 : 1)) + 30), '#');
        line += gentle ? "cd" : "\\";
        drawing.push_back(line);
    }
    drawing.push_back(std::string(size_t(120 + 2 * steps), '#'));
    return drawing;
}

} // namespace

/// Motion over tiles, seen from the side and from above.
class TileMotionTest : public QObject {
    Q_OBJECT

private slots:
    void a_slope_over_many_tiles_is_walked_without_a_hop_data() {
        QTest::addColumn<double>("speed");
        QTest::addColumn<bool>("gentle");
        for (const double speed : {0.5, 3.0, 6.0, 12.0, 30.0})
            for (const bool gentle : {false, true})
                QTest::addRow("%g m/s, %s", speed, gentle ? "1:2" : "1:1") << speed << gentle;
    }
    void a_slope_over_many_tiles_is_walked_without_a_hop() {
        QFETCH(double, speed);
        QFETCH(bool, gentle);
        const World world = tile_world(tile_level(hill(16, gentle)));
        Character c;
        c.run_speed_mps = speed;
        const double r = c.radius_m, slope = gentle ? 0.5 : 1, ground = 0.5;
        const double rise = gentle ? 4 : 8, left = 15, top = left + rise / slope, down = top + 15,
                     end = down + rise / slope + 30;
        const auto ground_at = [&](double x) {
            return ground + std::clamp(std::min((x - left) * slope, (down - x) * slope + rise), 0.0, rise);
        };
        for (const double way : {1.0, -1.0}) {
            State s = state_at(world, c, {way > 0 ? 2 : end - 2, 0, ground});
            QVERIFY(s.standing);
            double last = s.at.x;
            const int speeding = int(speed / c.ground_acceleration_mps2 * 120) + 2;
            for (int i = 0; s.at.x > 1 && s.at.x < end - 1; ++i) {
                s = step(world, c, s, {{way, 0}, false});
                QVERIFY2(s.standing, qPrintable(QString("hops at %1, %2").arg(s.at.x).arg(s.at.z)));
                QCOMPARE(s.at.y, 0.0);
                // Level speed stays what it is: nothing catches.
                if (i > speeding)
                    QVERIFY2(std::abs(std::abs(s.at.x - last) * 120 - speed) < 1e-6 * speed + 1e-9,
                             qPrintable(QString("catches at %1").arg(s.at.x)));
                last = s.at.x;
                // The feet are as high as the highest ground under the flat bottom.
                const double x = s.at.x;
                double expected = std::max(ground_at(x - r), ground_at(x + r));
                if (x - r < top && x + r > top) expected = ground + rise;
                if (x - r < down && x + r > down) expected = ground + rise;
                QVERIFY2(std::abs(s.at.z - expected) < 1e-4,
                         qPrintable(QString("%1 instead of %2 at %3").arg(s.at.z).arg(expected).arg(x)));
            }
            QVERIFY(way > 0 ? s.at.x > end - 2 : s.at.x < 2);
        }
    }

    void nothing_catches_between_full_cells() {
        // Over the border of columns of chunks, at any place and speed, walking and landing.
        const World world = tile_world(tile_level({std::string(100, '#'), std::string(100, '#')}));
        Random random(61);
        const Character c;
        for (int i = 0; i < test::rounds(200); ++i) {
            State s = state_at(world, c, {random.between(2, 48), 0, 1 + random.between(0, 3)});
            s.velocity = {random.between(-6, 6), 0, 0};
            const double vx = s.velocity.x;
            const Vec2 stick(vx / c.run_speed_mps, 0);
            for (int k = 0; k < 120 && s.at.x > 1 && s.at.x < 49; ++k) {
                s = step(world, c, s, {stick, false});
                QVERIFY(std::abs(s.velocity.x - vx) < 1e-9);
                QVERIFY(s.at.z >= 1 - 1e-6);
            }
        }
    }

    void decks_are_passed_from_below_and_held_from_above() {
        const World world =
            tile_world(tile_level({"         ", "  -----  ", "         ", "         ", "#########"}));
        Character c;
        const double deck = 4 * 0.5;
        // Up through it, and standing on it.
        State s = state_at(world, c, {2.25, 0, 0.5});
        QVERIFY(s.standing);
        c.jump_height_m = 1.8;
        s = step(world, c, s, {Vec2(0), true});
        s = after(world, c, s, {Vec2(0), true}, 240);
        QVERIFY(s.standing);
        QVERIFY(std::abs(s.at.z - deck) < 1e-6);
        // Jump alone jumps; crouched it lets one down.
        State jumped = after(world, c, step(world, c, s, {Vec2(0), false}), {Vec2(0), true}, 10);
        QVERIFY(jumped.at.z > deck);
        s = after(world, c, s, {Vec2(0), false, true}, 2);
        QVERIFY(s.crouched && s.standing);
        s = after(world, c, step(world, c, s, {Vec2(0), true, true}), {}, 240);
        QVERIFY(s.standing);
        QVERIFY(std::abs(s.at.z - 0.5) < 1e-6);
        // From the side nothing is in the way of head or body.
        s = state_at(world, c, {0.6, 0, 0.5});
        for (int i = 0; i < 60; ++i) {
            s = step(world, c, s, {{1, 0}, false});
            QVERIFY(std::abs(s.at.z - 0.5) < 1e-9 && s.standing);
        }
        QVERIFY(s.at.x > 3);
        // On full ground crouch and jump do nothing.
        s = after(world, c, s, {Vec2(0), false, true}, 2);
        for (int i = 0; i < 30; ++i) {
            s = step(world, c, s, {Vec2(0), i < 3, true});
            QVERIFY(std::abs(s.at.z - 0.5) < 1e-9);
        }
    }

    void spikes_kill_and_their_neighbours_do_not() {
        const World world = tile_world(tile_level({"         ", "###^^^###", "#########"}));
        const Character c;
        State s = state_at(world, c, {0.6, 0, 1});
        // On the edge beside them nobody dies.
        for (int i = 0; i < 200 && s.at.x < 1.15; ++i) s = step(world, c, s, {{0.3, 0}, false});
        QVERIFY(!s.dead && s.standing);
        s = after(world, c, s, {{1, 0}, false}, 120);
        QVERIFY(s.dead);
    }

    void a_brush_counts_by_its_section_in_the_plane() {
        test::LevelMaker maker;
        maker.box({0, 0, -1}, {20, 1, 1});
        maker.box({3, 0, 0}, {1, 4, 2}, 45); // its section is wider than its side
        maker.box({-4, 3, 0}, {1, 1, 2});    // beside the plane: not met
        Level level = maker.level();
        level.frame = Frame::side;
        const World world = tile_world(level);
        const Character c;
        State s = state_at(world, c, {0, 0, 0});
        s = after(world, c, s, {{1, 1}, false}, 240);
        QCOMPARE(s.at.y, 0.0);
        QVERIFY(std::abs(s.at.x - (3 - std::sqrt(0.5) - c.radius_m)) < 1e-3);
        s = after(world, c, s, {{-1, 0}, false}, 240);
        QVERIFY(s.at.x < -6);
    }

    void a_stick_in_the_plane_has_only_left_and_right() {
        const World world = tile_world(tile_level({std::string(40, '#')}));
        const Character c;
        const State s = state_at(world, c, {5, 0, 0.5});
        const State a = after(world, c, s, {{0.6, 0.8}, false}, 100),
                    b = after(world, c, s, {{0.6, 0}, false}, 100);
        QVERIFY(a == b);
    }

    void by_cells_one_step_is_one_cell() {
        Level level = tile_level({"#####", "#   #", "# # #", "#   #", "#####"}, 1, Frame::plan);
        level.walked = Walked::by_cells;
        const World world = tile_world(level);
        const Character c = character_of({}, level);
        State s = state_at(world, c, {1.2, 3.9, 0});
        QVERIFY(s.standing);
        QCOMPARE(s.at, Vec3(1.5, 3.5, 0));
        // A tap takes it one cell, in the time that running it takes.
        s = step(world, c, s, {{1, 0}, false});
        int steps = 1;
        while (glm::length(s.velocity) > 0 && steps < 1000) s = step(world, c, s, {}), ++steps;
        QCOMPARE(s.at, Vec3(2.5, 3.5, 0));
        QVERIFY(std::abs((steps - 1) * step_s - 1 / c.run_speed_mps) <= 1.5 * step_s);
        // Walls keep it; so does the layer's end.
        s = after(world, c, s, {{0, -1}, false}, 60);
        QCOMPARE(s.at, Vec3(2.5, 3.5, 0));
        s = after(world, c, s, {{1, 0.2}, false}, 240);
        QCOMPARE(s.at, Vec3(3.5, 3.5, 0));
        QVERIFY(!s.dead);
    }

    void seen_from_above_nothing_jumps_and_the_ground_is_everywhere() {
        const Level level = tile_level({"####", "#   ", "####"}, 1, Frame::plan);
        const World world = tile_world(level);
        const Character c = character_of({}, level);
        QCOMPARE(c.jump_height_m, 0.0);
        State s = state_at(world, c, {1.5, 1.5, 0});
        QVERIFY(s.standing);
        s = after(world, c, s, {{0.2, 0.8}, true}, 120);
        QVERIFY(s.standing && s.at.z == 0.0);
        QVERIFY(s.at.y <= 2 - c.radius_m + 1e-5);
        s = after(world, c, s, {{1, 0}, false}, 1200);
        QVERIFY(s.standing && s.at.x > 50 && !s.dead);
    }
};

RUBBLE_TEST(TileMotionTest)
#include "tile_motion_test.moc"
