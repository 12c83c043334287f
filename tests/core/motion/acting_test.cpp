#include <QtTest/QtTest>

#include "core/motion/play.h"
#include "core/random.h"
#include "level/element_values.h"
#include "motion/elements.h"
#include "motion/recording.h"
#include "test_program.h"

using namespace rubble;
using motion::Input;
using test::LevelMaker;
using test::Play;
using test::towards;

namespace {

Element sized(const char* kind, const Vec3& at, const Vec3& size) {
    return with_value(Element{kind, at, 0, {}}, "size_m", size);
}

Element lift_between(const Vec3& size, const std::vector<Vec3>& stops, double speed, double wait) {
    Element lift = with_value(sized("lift", stops[0], size), "stops", stops);
    return with_value(with_value(std::move(lift), "speed_mps", speed), "wait_s", wait);
}

} // namespace

/// What acts on a body that moves freely, against closed forms.
class ActingTest : public QObject {
    Q_OBJECT

private slots:
    void a_ladder_is_climbed_at_its_pace_and_leads_onto_the_ledge() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        maker.box({3, 0, 0}, {2, 4, 3}); // its face at x = 2
        maker.element_with(with_value(Element{"ladder", {2, 0, 0}, 180, {}}, "height_m", 3.0));
        Play play(maker, {1.65, 0, 0});
        const int up = int(3 / play.character.climb_speed_mps / motion::step_s);
        play.go(up - 1, towards({1, 0}));
        QVERIFY(play.body().climbing);
        QVERIFY(std::abs(play.body().at.z - (up - 1) * play.character.climb_speed_mps * motion::step_s) <
                1e-9);
        const double there = play.body().at.z;
        play.go(60); // without the stick it holds on
        QCOMPARE(play.body().at.z, there);
        play.go(60, towards({1, 0}));
        QVERIFY(play.body().standing);
        QCOMPARE(play.body().at.z, 3.0);
        // Away from it over the edge, and down.
        play.go(400, towards({-1, 0}));
        QVERIFY(play.body().standing && !play.body().dead);
        QCOMPARE(play.body().at.z, 0.0);
    }

    void who_lets_go_of_a_ladder_falls() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        maker.box({3, 0, 0}, {2, 4, 5});
        maker.element_with(with_value(Element{"ladder", {2, 0, 0}, 180, {}}, "height_m", 5.0));
        Play play(maker, {1.65, 0, 0});
        play.go(100, towards({1, 0}));
        QVERIFY(play.body().climbing);
        play.go(1, {Vec2(0), true, false, false});
        play.go(120);
        QVERIFY(play.body().standing && !play.body().dead);
        QCOMPARE(play.body().at.z, 0.0);
    }

    void a_launcher_throws_as_high_as_its_speed_says() {
        for (const double speed : {4.0, 8.0, 11.0}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {10, 10, 1});
            maker.element_with(
                with_value(sized("launcher", {0, 0, 0}, {1, 1, 0.1}), "velocity_mps", Vec3(0, 0, speed)));
            Play play(maker, {-2, 0, 0});
            double highest = 0;
            for (int i = 0; i < 240; ++i) {
                play.go(1, towards({1, 0}));
                highest = std::max(highest, play.body().at.z);
            }
            const double rise = speed * speed / (2 * play.character.gravity_up_mps2);
            QVERIFY2(std::abs(highest - rise) < 2e-3, qPrintable(QString::number(highest - rise)));
        }
    }

    void a_belt_carries_and_slippery_ground_holds_little() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 10, 1});
        Element belt = sized("floor", {0, 0, 0}, {30, 2, 0.1});
        belt = with_value(with_value(std::move(belt), "acts", std::string("carries")), "speed_mps", 2.0);
        maker.element_with(belt);
        maker.element_with(sized("floor", {0, 3, 0}, {30, 2, 0.1}));
        Play on_belt(maker, {-10, 0, 0});
        on_belt.go(120);
        QVERIFY(std::abs(on_belt.body().at.x + 8) < 1e-9);
        Play on_ice(maker, {-10, 3, 0});
        const Character& c = on_ice.character;
        on_ice.go(30, towards({1, 0}));
        const double wanted = c.ground_acceleration_mps2 * motion::slippery_part * 30 * motion::step_s;
        QVERIFY(std::abs(on_ice.body().velocity.x - wanted) < 1e-9);
        on_ice.go(29);
        QVERIFY(on_ice.body().velocity.x > 0);
        on_ice.go(2);
        QCOMPARE(on_ice.body().velocity.x, 0.0);
    }

    void a_lift_carries_whoever_stands_on_it() {
        test::Random random(1801);
        for (int round = 0; round < test::rounds(40); ++round) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {2, 2, 1});
            const Vec3 from(0, 4, random.between(-0.2, 0.5));
            const Vec3 to = from + Vec3(random.between(-3, 3), random.between(0, 3), random.between(-3, 3));
            const double speed = random.between(0.5, 4);
            maker.element_with(lift_between({2, 2, 0.2}, {from, to}, speed, 0.5));
            Play play(maker, from + Vec3(0.3, -0.2, 0.2));
            QVERIFY(play.body().standing);
            const auto& lift = play.world.elements()->lifts[0];
            for (int i = 0; i < 2 * lift.course.steps(); ++i) {
                play.go(1);
                const Vec3 wanted = lift.course.at(play.state.clocks[0]) + Vec3(0.3, -0.2, 0.2);
                QVERIFY2(play.body().standing && glm::length(play.body().at - wanted) < 1e-6,
                         qPrintable(QString("round %1 step %2").arg(round).arg(i)));
            }
            // One course takes the way there and back, and two waits.
            const double seconds = 2 * (glm::length(to - from) / speed + 0.5);
            QVERIFY(std::abs(lift.course.steps() * motion::step_s - seconds) <= 2.1 * motion::step_s);
        }
    }

    void a_lift_crushes_who_has_no_room() {
        for (const double ceiling : {3.0, 5.0}) {
            LevelMaker maker;
            maker.box({0, 4, ceiling}, {4, 4, 1});
            maker.box({0, 0, -1}, {2, 2, 1});
            maker.element_with(lift_between({2, 2, 0.2}, {{0, 4, 0}, {0, 4, 2}}, 2, 0.5));
            Play play(maker, {0, 4, 0.2});
            play.go(300);
            QCOMPARE(play.body().dead, ceiling < 2.2 + play.character.height_m);
        }
    }

    void a_called_lift_goes_only_under_somebody() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {2, 2, 1});
        maker.element_with(with_value(lift_between({2, 2, 0.2}, {{0, 2, -0.2}, {0, 2, 2.8}}, 3, 0.5), "runs",
                                      std::string("called")));
        Play play(maker);
        play.go(300);
        QCOMPARE(play.state.clocks[0], 0);
        play.go(40, towards({0, 1}));
        play.go(190); // it waits half a second and takes one
        QVERIFY(play.body().standing);
        QVERIFY(std::abs(play.body().at.z - 3) < 1e-6);
    }

    void a_deck_crumbles_after_its_time() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {2, 2, 1});
        maker.box({0, 0, -4}, {20, 20, 1});
        maker.element_with(with_value(sized("deck", {2, 0, -0.2}, {2, 2, 0.2}), "crumbles_s", 1.0));
        Play play(maker);
        play.go(240);
        QVERIFY(play.state.puzzle.gone.empty());
        play.go(60, towards({1, 0})); // it is stepped on after about half of that
        QVERIFY(play.body().standing && play.state.clocks[0] > 0);
        play.go(120 - play.state.clocks[0] - 1);
        QVERIFY(play.state.puzzle.gone.empty());
        play.go(1);
        QCOMPARE(play.state.puzzle.gone.size(), size_t(1));
        play.go(200);
        QCOMPARE(play.body().at.z, -3.0);
    }

    void a_one_way_deck_lets_pass_from_below() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        maker.element_with(with_value(sized("deck", {0, 0, 0.9}, {2, 2, 0.1}), "one_way", true));
        Play play(maker);
        play.go(120, {Vec2(0), true, false, false});
        QVERIFY(play.body().standing);
        QVERIFY(std::abs(play.body().at.z - 1) < 1e-9);
    }

    void a_foe_kills_when_it_gets_there() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 10, 1});
        Element foe = with_value(sized("foe", {8, 0, 0}, {0.8, 0.8, 1.6}), "path",
                                 std::vector<Vec3>{{8, 0, 0}, {-8, 0, 0}});
        maker.element_with(with_value(std::move(foe), "speed_mps", 2.0));
        Play play(maker);
        const double seconds = (8 - 0.4 - play.character.radius_m) / 2;
        play.go(int(seconds / motion::step_s) - 1);
        QVERIFY(!play.body().dead);
        play.go(3);
        QVERIFY(play.body().dead);
    }

    void a_foe_turns_at_walls_and_edges() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 4, 1});
        maker.box({6, 0, 0}, {2, 4, 2}); // a wall from x = 5; the ground ends at -10
        Element foe = with_value(sized("foe", {0, 0, 0}, {0.8, 0.8, 1.6}), "way", std::string("turns"));
        maker.element_with(with_value(std::move(foe), "speed_mps", 2.0));
        Play play(maker, {-9, 1.5, 0});
        const auto& course = play.world.elements()->foes[0].course;
        double least = 0, most = 0;
        for (int step = 0; step < course.steps(); ++step)
            least = std::min(least, course.at(step).x), most = std::max(most, course.at(step).x);
        QVERIFY2(std::abs(most - 4.6) < 0.1, qPrintable(QString::number(most)));
        QVERIFY2(std::abs(least + 10) < 0.2, qPrintable(QString::number(least)));
        QVERIFY(std::abs(course.steps() * motion::step_s - (most - least)) < 0.1); // there and back at 2 m/s
    }

    void play_is_the_same_again() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        maker.element_with(lift_between({2, 2, 0.2}, {{2, 0, -0.2}, {2, 0, 2}}, 2, 0.5));
        Play a(maker), b(maker);
        test::Random random(7);
        for (int i = 0; i < 2000; ++i) {
            const Input input{{random.whole(-1, 1), random.whole(-1, 1)}, random.chance(0.1), false, false};
            a.go(1, input), b.go(1, input);
            QVERIFY(a.state == b.state);
        }
    }
};

RUBBLE_TEST(ActingTest)
#include "acting_test.moc"
