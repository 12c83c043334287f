#include <QtTest/QtTest>

#include <cmath>

#include "core/motion/maker_world.h"
#include "core/random.h"
#include "motion/recording.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::LevelMaker;
using test::Random;
using test::world_of;

namespace {

LevelMaker floor_only() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {100, 100, 1});
    return maker;
}

/// Runs until `stop` says so or `most` steps have passed.
template <class Stop>
State run(const World& world, const Character& c, State s, const Input& input, int most, Stop stop) {
    for (int i = 0; i < most && !stop(s); ++i) s = step(world, c, s, input);
    return s;
}

const auto never = [](const State&) { return false; };

bool near(double a, double b, double by) { return std::abs(a - b) <= by; }

} // namespace

class StepTest : public QObject {
    Q_OBJECT

private slots:
    void stands_on_the_floor_at_its_height() {
        const World world = world_of(floor_only());
        const State s = state_at(world, {}, {1, 2, 0.2});
        QVERIFY(s.standing);
        QCOMPARE(s.at, Vec3(1, 2, 0));
    }

    void pulls_itself_up_onto_what_is_within_reach() {
        LevelMaker maker = floor_only();
        maker.box({2, 0, 0}, {2, 4, 2.5});
        const World world = world_of(maker);
        Character c;
        c.pull_up_m = 1.35;
        State s = step(world, c, state_at(world, c, {0.6, 0, 0}), {{1, 0}, true});
        s = run(world, c, s, {{1, 0}, true}, 240, [](const State& s) { return s.pull_steps > 0; });
        QVERIFY(s.pull_steps > 0 && s.at.z >= 2.5 - 1.35 - 1e-3);
        int steps = 0;
        while (!s.standing && steps < 100) {
            s = step(world, c, s, {{-1, 0}, true, true}); // whatever is pressed meanwhile
            ++steps;
            QVERIFY(overlap_m(world, body_of(c, s)) < 1e-3);
        }
        QVERIFY(steps * step_s <= 0.6);
        QCOMPARE(s.at.z, 2.5);
        QVERIFY(s.at.x > 0.7 && s.at.x < 0.8);
    }

    void does_not_pull_itself_up_where_it_cannot() {
        const auto ends_below = [](LevelMaker maker, double pull, Vec2 stick) {
            const World world = world_of(maker);
            Character c;
            c.pull_up_m = pull;
            State s = step(world, c, state_at(world, c, {0.65, 0, 0}), {{}, true});
            s = run(world, c, s, {stick, true}, 240, [](const State& s) { return s.standing; });
            return s.at.z < 0.01;
        };
        LevelMaker block = floor_only();
        block.box({2, 0, 0}, {2, 4, 2.5});
        QVERIFY(!ends_below(block, 1.32, {1, 0}));
        QVERIFY(ends_below(block, 1.28, {1, 0})); // too high
        QVERIFY(ends_below(block, 1.32, {0, 1})); // the stick along the face
        QVERIFY(ends_below(block, 1.32, {0, 0})); // none
        LevelMaker low = block;
        low.box({2, 0, 4.2}, {2, 4, 1}); // no room above it
        QVERIFY(ends_below(low, 1.32, {1, 0}));
        LevelMaker roof = block;
        roof.box({0, 0, 3.5}, {2.4, 4, 1}); // nor on the way up
        QVERIFY(ends_below(roof, 1.32, {1, 0}));
        LevelMaker steep = floor_only();
        steep.box({2, 0, 0}, {2, 4, 1});
        Brush ridge;
        ridge.shape = Shape::ramp;
        ridge.place.at = {2, 0, 1};
        ridge.size = {2, 4, 3};
        steep.brush(ridge);
        QVERIFY(ends_below(steep, 1.32, {1, 0})); // what is up there is no ground
    }

    void runs_at_run_speed_and_brakes() {
        const World world = world_of(floor_only());
        State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}}, 120, never);
        QVERIFY(near(s.velocity.x, 6, 1e-12));
        // 0.15 s of acceleration cost half of 0.9 m.
        QVERIFY(near(s.at.x, 6 - 0.45, 1e-9));
        s = run(world, {}, s, {}, 60, never);
        QCOMPARE(s.velocity.x, 0.0);
    }

    void jumps_to_its_height_and_takes_its_time() {
        const World world = world_of(floor_only());
        State s = step(world, {}, state_at(world, {}, {0, 0, 0}), {{}, true});
        double apex = 0;
        int steps = 0;
        while (!s.standing && steps < 1000) {
            s = step(world, {}, s, {{}, true});
            apex = std::max(apex, s.at.z);
            ++steps;
        }
        QVERIFY(near(apex, 1.2, 1e-3));
        QVERIFY(near(steps * step_s, 0.6928, 0.009));
    }

    void a_short_press_gives_the_low_jump() {
        const World world = world_of(floor_only());
        State s = step(world, {}, state_at(world, {}, {0, 0, 0}), {{}, true});
        double apex = 0;
        for (int i = 0; i < 100; ++i) s = step(world, {}, s, {}), apex = std::max(apex, s.at.z);
        QVERIFY2(near(apex, 0.4, 1e-3), qPrintable(QString::number(apex)));
    }

    void further_jumps_add_their_height() {
        const World world = world_of(floor_only());
        Character c;
        c.further_jumps = 1;
        State s = step(world, c, state_at(world, c, {0, 0, 0}), {{}, true});
        double apex = 0;
        for (int i = 0; i < 300 && !(i > 5 && s.standing); ++i) {
            // The key is let go for one step at the apex, then pressed again.
            const bool let_go = s.jumps_left == 1 && s.velocity.z <= 0 && s.jump_held;
            s = step(world, c, s, {{}, !let_go});
            apex = std::max(apex, s.at.z);
        }
        QVERIFY2(near(apex, 2.4, 5e-3), qPrintable(QString::number(apex)));
    }

    void a_ceiling_ends_the_rise() {
        LevelMaker maker = floor_only();
        maker.box({0, 0, 2.2}, {4, 4, 1});
        const World world = world_of(maker);
        State s = step(world, {}, state_at(world, {}, {0, 0, 0}), {{}, true});
        double apex = 0;
        for (int i = 0; i < 60; ++i) {
            s = step(world, {}, s, {{}, true});
            apex = std::max(apex, s.at.z);
            QVERIFY(overlap_m(world, body_of(Character{}, s)) < 1e-3);
        }
        QVERIFY(near(apex, 0.4, 1e-4));
    }

    void a_step_is_taken_at_its_limit_and_not_above() {
        for (double height : {0.38, 0.40, 0.42}) {
            LevelMaker maker = floor_only();
            maker.box({5, 0, 0}, {4, 4, height}, 17);
            const World world = world_of(maker);
            const State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}}, 100, never);
            QCOMPARE(s.at.z > 0.1, height < 0.41);
        }
    }

    void stairs_are_followed_without_losing_speed() {
        LevelMaker maker = floor_only();
        for (int i = 0; i < 10; ++i) maker.box({3.0 + i * 0.4, 0, 0}, {0.4, 3, 0.3 * (i + 1)});
        maker.box({8.8, 0, 0}, {4, 3, 3.0});
        const World world = world_of(maker);
        State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}}, 120, never);
        QVERIFY(near(s.at.x, 5.55, 1e-9));
        for (int i = 0; i < 30; ++i) {
            s = step(world, {}, s, {{1, 0}});
            QVERIFY(s.standing);
        }
        QVERIFY(near(s.velocity.x, 6, 1e-9));
        QCOMPARE(s.at.z, 3.0);
        for (int i = 0; i < 60; ++i) {
            s = step(world, {}, s, {{-1, 0}});
            QVERIFY(s.standing);
        }
        QVERIFY(s.at.z < 3.0);
    }

    void a_slope_is_walked_at_its_limit_and_not_above() {
        for (double deg : {40.0, 44.9, 46.0, 60.0}) {
            LevelMaker maker = floor_only();
            maker.ramp({4, 0, 0}, {2, 4, 2 * std::tan(radians(deg))}, 0);
            const World world = world_of(maker);
            const State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}}, 90, never);
            QCOMPARE(s.at.z > 0.5, deg < 45.5);
        }
    }

    void on_a_slope_the_bottom_touches_uphill() {
        LevelMaker maker = floor_only();
        maker.ramp({5, 0, 0}, {10, 10, 5}); // tan 0.5
        const World world = world_of(maker);
        const State s = state_at(world, {}, {5, 0, 2.5 + 0.15});
        QVERIFY(s.standing);
        QVERIFY(near(s.at.z, 2.5 + 0.3 * 0.5, 1e-6));
    }

    void too_steep_ground_accelerates_down_the_fall_line() {
        LevelMaker maker = floor_only();
        maker.ramp({20, 0, 0}, {20, 20, 20 * std::tan(radians(60.0))});
        const World world = world_of(maker);
        State s = state_at(world, {}, {20, 0, 20});
        s = run(world, {}, s, {}, 200, [](const State& t) { return t.sliding; });
        QVERIFY(s.sliding);
        const double before = glm::length(s.velocity);
        const State after = run(world, {}, s, {}, 24, never);
        const double expected = 20 * std::sin(radians(60.0)) * 24 * step_s;
        QVERIFY2(
            near(glm::length(after.velocity) - before, expected, 0.02 * expected),
            qPrintable(QString("%1 against %2").arg(glm::length(after.velocity) - before).arg(expected)));
        QVERIFY(!step(world, {}, after, {{}, true}).rising_by_jump);
    }

    void slides_along_a_wall() {
        LevelMaker maker = floor_only();
        maker.box({3, 0, 0}, {1, 40, 3}, 0);
        const World world = world_of(maker);
        const Vec2 stick = glm::normalize(Vec2(1, 1));
        const State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {stick}, 240, never);
        QVERIFY(near(s.at.x, 2.5 - 0.3, 1e-4));
        QVERIFY(s.at.y > 6);
    }

    void walks_off_an_edge_as_far_as_falling_takes() {
        for (double drop : {1.0, 2.0, 3.0}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {8, 8, 1});
            maker.box({20, 0, -1 - drop}, {60, 8, 1});
            const World world = world_of(maker);
            State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}}, 400,
                          [](const State& t) { return t.standing && t.at.z < -0.5; });
            // Landed at the first step's end after contact: compare with the flight's own length.
            const double reach = 6 * std::sqrt(2 * drop / 20) + 4.3;
            QVERIFY2(near(s.at.x, reach, 6 * step_s), qPrintable(QString("%1 %2").arg(s.at.x).arg(reach)));
        }
    }

    void crouching_waits_for_room_to_stand_up() {
        LevelMaker maker = floor_only();
        maker.box({5, 0, 1.2}, {4, 4, 1});
        const World world = world_of(maker);
        State s = run(world, {}, state_at(world, {}, {0, 0, 0}), {{1, 0}, false, true}, 180, never);
        QVERIFY(s.at.x > 4);
        s = run(world, {}, s, {}, 20, never);
        QVERIFY(s.crouched);
        s = run(world, {}, s, {{1, 0}}, 240, never);
        QVERIFY(s.at.x > 7 && !s.crouched);
    }

    void a_deep_fall_kills() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 4.1});
        maker.box({0, 0, -1}, {40, 40, 1});
        const World world = world_of(maker);
        QVERIFY(run(world, {}, state_at(world, {}, {0, 0, 4.1}), {{1, 0}}, 400, never).dead);
        Character sturdy;
        sturdy.survived_fall_m = 4.2;
        QVERIFY(!run(world, sturdy, state_at(world, sturdy, {0, 0, 4.1}), {{1, 0}}, 400, never).dead);
    }

    void a_late_press_within_the_grace_still_jumps() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 4});
        const World world = world_of(maker);
        State s = run(world, {}, state_at(world, {}, {0, 0, 4}), {{1, 0}}, 200,
                      [](const State& t) { return !t.standing; });
        State late = run(world, {}, s, {{1, 0}}, 8, never);
        QVERIFY(step(world, {}, late, {{1, 0}, true}).velocity.z > 5);
        late = run(world, {}, s, {{1, 0}}, 14, never);
        QVERIFY(step(world, {}, late, {{1, 0}, true}).velocity.z < 0);
    }

    void an_early_press_is_remembered() {
        const World world = world_of(floor_only());
        State s = state_at(world, {}, {0, 0, 0});
        s.at.z = 0.1, s.standing = false;
        s = step(world, {}, s, {{}, true});
        bool jumped = false;
        for (int i = 0; i < 20; ++i) s = step(world, {}, s, {{}, true}), jumped |= s.velocity.z > 5;
        QVERIFY(jumped);
    }

    void nobody_stands_on_a_steep_face_by_pushing_against_it() {
        // A jump onto a ramp of 60 degrees with the stick towards it all the time.
        LevelMaker maker = floor_only();
        maker.ramp({3, 0, 0}, {2, 6, 2 * std::tan(radians(60.0))});
        const World world = world_of(maker);
        const Character c;
        State s = state_at(world, c, {0.5, 0, 0});
        for (int i = 0; i < 360; ++i) {
            s = step(world, c, s, {{1, 0}, i >= 5 && i < 60, false, false});
            QVERIFY2(!s.standing || s.at.z < 1e-6, qPrintable(QString::number(s.at.z)));
        }
    }

    void a_risers_face_may_be_steep_where_a_tread_follows() {
        for (const bool tread : {true, false}) {
            LevelMaker maker = floor_only();
            maker.ramp({2.05, 0, 0}, {0.1, 6, 0.3}); // 72 degrees, within a step
            if (tread) maker.box({3.1, 0, 0}, {2, 6, 0.3});
            const World world = world_of(maker);
            const Character c;
            State s = state_at(world, c, {0, 0, 0});
            for (int i = 0; i < 90; ++i) s = step(world, c, s, {{0.7, 0}, false, false, false});
            // With the tread one walks up; a ridge alone stops who walks against it.
            QVERIFY2(tread ? std::abs(s.at.z - 0.3) < 1e-6 && s.at.x > 2.5 : s.at.z < 1e-6 && s.at.x < 2,
                     qPrintable(QString("%1 %2").arg(s.at.x).arg(s.at.z)));
        }
    }

    void between_two_steep_faces_one_stands() {
        LevelMaker maker = floor_only();
        const double high = 2 * std::tan(radians(60.0));
        maker.ramp({1.0, 0, 0}, {2, 6, high});       // rises to the right
        maker.ramp({-1.0, 0, 0}, {2, 6, high}, 180); // rises to the left
        const World world = world_of(maker);
        const Character c;
        State s = state_at(world, c, {0.1, 0, 2.5});
        for (int i = 0; i < 360; ++i) s = step(world, c, s, {});
        QVERIFY(s.standing);
        // The disc rests on both faces, as high as its rim has to be.
        QVERIFY2(std::abs(s.at.z - c.radius_m * std::tan(radians(60.0))) < 0.02,
                 qPrintable(QString::number(s.at.z)));
        s = step(world, c, s, {{0, 0}, true, false, false});
        QVERIFY(s.velocity.z > 6);
    }

    void walking_past_a_steep_face_leaves_the_ground_where_the_ground_ends() {
        // A low slab beside a steep ramp: past the slab's end only the ramp's flank is as high.
        LevelMaker maker = floor_only();
        maker.box({-2, 0, 0}, {2, 4, 0.25});
        maker.ramp({0, 0.9, 0}, {6, 1, 6 * std::tan(radians(60.0))}, 0);
        const World world = world_of(maker);
        const Character c;
        State s = state_at(world, c, {-2, 0.2, 0.25});
        for (int i = 0; i < 240; ++i) {
            s = step(world, c, s, {{0.3, 0.05}, false, false, false});
            if (s.standing && s.at.x > -1 + c.radius_m + 0.01) QVERIFY(s.at.z < 0.01);
        }
    }

    void the_same_recording_gives_the_same_states() {
        Random random(3101);
        LevelMaker maker = floor_only();
        for (int i = 0; i < 30; ++i)
            maker.box(
                {random.stepped(-8, 8, 0.25), random.stepped(-8, 8, 0.25), 0},
                {random.stepped(0.5, 3, 0.25), random.stepped(0.5, 3, 0.25), random.stepped(0.25, 2, 0.25)},
                random.stepped(0, 345, 15));
        const World world = world_of(maker), again = world_of(maker);
        Recording recording{{0, 0, 3}, {}};
        for (int i = 0; i < 600; ++i)
            recording.add(
                {{random.between(-1, 1), random.between(-1, 1)}, random.chance(0.3), random.chance(0.1)});
        QVERIFY(replay(world, {}, recording) == replay(again, {}, recording));
    }

    void nobody_is_ever_inside_matter() {
        Random random(3102);
        for (int scene = 0; scene < test::rounds(60); ++scene) {
            LevelMaker maker = floor_only();
            for (int i = 0; i < 40; ++i) {
                const Vec3 at(random.stepped(-8, 8, 0.25), random.stepped(-8, 8, 0.25),
                              random.stepped(0, 3, 0.25));
                const Vec3 size(random.stepped(0.5, 4, 0.25), random.stepped(0.5, 4, 0.25),
                                random.stepped(0.25, 2, 0.25));
                if (random.chance(0.3))
                    maker.ramp(at, size, random.stepped(0, 345, 15));
                else
                    maker.box(at, size, random.stepped(0, 345, 15));
            }
            const World world = world_of(maker);
            Character c;
            c.survived_fall_m = 100;
            if (scene % 2 == 1) c.pull_up_m = 1.2;
            State s = state_at(world, c, {random.between(-9, 9), random.between(-9, 9), 8});
            Input input;
            for (int i = 0; i < 2000; ++i) {
                if (i % 20 == 0) {
                    const double a = random.between(0, 6.28);
                    input = {{std::cos(a), std::sin(a)}, random.chance(0.5), random.chance(0.2)};
                }
                const State before = s;
                s = step(world, c, s, input);
                const double deep = overlap_m(world, body_of(c, s));
                QVERIFY2(
                    deep < 1e-3,
                    qPrintable(QString("scene %1 step %2: %3 m at %4 %5 %6, before %7 %8 %9 standing %10")
                                   .arg(scene)
                                   .arg(i)
                                   .arg(deep)
                                   .arg(s.at.x)
                                   .arg(s.at.y)
                                   .arg(s.at.z)
                                   .arg(before.at.x)
                                   .arg(before.at.y)
                                   .arg(before.at.z)
                                   .arg(before.standing)));
            }
        }
    }
};

RUBBLE_TEST(StepTest)
#include "step_test.moc"
