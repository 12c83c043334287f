#include <QtTest/QtTest>

#include "base/angle.h"
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

constexpr double k_fall_mps = 8;

const Input k_use{Vec2(0), false, false, true};

Element crate_at(const Vec3& at, double size = 1) {
    return with_value(Element{"crate", at, 0, {}}, "size_m", size);
}
Element foe_with(const std::string& way, const Vec3& at, double facing_deg = 0) {
    Element foe = with_value(Element{"foe", at, facing_deg, {}}, "size_m", Vec3(0.8, 0.8, 1.6));
    return with_value(with_value(std::move(foe), "way", way), "speed_mps", 2.0);
}

} // namespace

/// Crates that are pushed freely, foes that go by rules, switches that are used and skills that are taken,
/// against closed forms.
class CratesTest : public QObject {
    Q_OBJECT

private slots:
    void a_crate_is_pushed_at_half_the_speed_of_running() {
        test::Random random(1901);
        for (int round = 0; round < test::rounds(30); ++round) {
            const int quarter = random.whole(0, 3);
            const Vec2 way = quarter % 2 ? Vec2(0, quarter == 1 ? 1 : -1) : Vec2(quarter == 0 ? 1 : -1, 0);
            LevelMaker maker;
            maker.box({0, 0, -1}, {40, 40, 1});
            const double size = random.between(0.6, 2);
            maker.element_with(crate_at({0, 0, 0}, size));
            const double before = size / 2 + 0.3;
            Play play(maker, raised(way * -before + Vec2(way.y, way.x) * random.between(-0.2, 0.2), 0));
            play.go(2, towards(way));
            const Vec3 from = play.crate();
            play.go(120, towards(way));
            const double wanted = play.character.run_speed_mps * play.character.push_part;
            const Vec3 moved = play.crate() - from;
            QVERIFY2(std::abs(glm::dot(flat(moved), way) - wanted) < 0.06,
                     qPrintable(QString("round %1: %2").arg(round).arg(glm::length(moved))));
            QVERIFY(std::abs(moved.x * way.y) + std::abs(moved.y * way.x) < 1e-9 && moved.z == 0);
            // Whoever lets go leaves it where it is.
            const Vec3 there = play.crate();
            play.go(60);
            QCOMPARE(play.crate(), there);
        }
    }

    void walls_and_other_crates_stop_it() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 10, 1});
        maker.box({6, 0, 0}, {2, 6, 3}); // its face at x = 5
        maker.element_with(crate_at({1, 0, 0}));
        maker.element_with(crate_at({3, 0, 0}));
        Play play(maker, {0.15, 0, 0});
        play.go(600, towards({1, 0}));
        QVERIFY2(std::abs(play.crate(0).x - 2) < 0.03, qPrintable(QString::number(play.crate(0).x)));
        QCOMPARE(play.crate(1).x, 3.0); // one does not push two
        Play other(maker, {2.9, 2, 0});
        other.go(1);
        QVERIFY(other.body().standing);
        LevelMaker alone;
        alone.box({0, 0, -1}, {40, 10, 1});
        alone.box({6, 0, 0}, {2, 6, 3});
        alone.element_with(crate_at({1, 0, 0}));
        Play to_wall(alone, {0.15, 0, 0});
        to_wall.go(600, towards({1, 0}));
        QVERIFY2(std::abs(to_wall.crate().x - 4.5) < 0.03, qPrintable(QString::number(to_wall.crate().x)));
    }

    void a_crate_falls_into_a_hole_and_is_walked_over() {
        LevelMaker maker; // ground on both sides of a pit of its size, one metre deep
        maker.box({-5, 0, -2}, {10, 6, 2});
        maker.box({6, 0, -2}, {10, 6, 2});
        maker.box({0.5, 0, -2}, {1, 6, 1});
        maker.element_with(crate_at({-2, 0, 0}));
        Play play(maker, {-2.85, 0, 0});
        for (int i = 0; i < 600 && play.crate().z == 0; ++i) play.go(1, towards({1, 0}));
        play.go(int(1 / k_fall_mps / motion::step_s) + 8);
        QVERIFY2(std::abs(play.crate().z + 1) < 2e-3 && std::abs(play.crate().x - 0.5) < 0.06,
                 qPrintable(QString("%1 %2").arg(play.crate().x).arg(play.crate().z)));
        play.go(240, towards({1, 0}));
        QVERIFY(play.body().standing && play.body().at.x > 2 && std::abs(play.body().at.z) < 1e-6);
    }

    void a_crate_holds_a_switch_and_one_with_a_lock_needs_its_item() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 10, 1});
        Element press = with_value(Element{"switch", {3, 0, 0}, 0, {}}, "mode", std::string("held"));
        maker.element_with(with_value(std::move(press), "by", std::string("crate")));
        maker.element_with(with_value(crate_at({1, 0, 0}), "needs", std::string("gloves")));
        maker.element_with(with_value(Element{"item", {-2, 2, 0}, 0, {}}, "gives", std::string("gloves")));
        Play play(maker, {-2, 0, 0});
        play.go(120, towards({1, 0}));
        QCOMPARE(play.crate().x, 1.0);
        const auto& elements = *play.world.elements();
        play.state = motion::put_back(play.world, play.character, play.state, {-2, 2, 0});
        play.go(2);
        play.state = motion::put_back(play.world, play.character, play.state, {0.15, 0, 0});
        QVERIFY(!motion::is_on(elements, play.state.puzzle, 0));
        for (int i = 0; i < 240 && play.crate().x < 3; ++i) play.go(1, towards({1, 0}));
        QVERIFY(motion::is_on(elements, play.state.puzzle, 0));
        play.go(240, towards({1, 0}));
        QVERIFY(!motion::is_on(elements, play.state.puzzle, 0)); // pushed on, it lets go
    }

    void a_barrier_lets_pass_in_its_direction() {
        test::Random random(2001);
        for (int round = 0; round < test::rounds(30); ++round) {
            const double deg = random.between(0, 360);
            const auto [x, y] = cos_sin(deg);
            const Vec2 ahead(x, y), aside(-y, x);
            LevelMaker maker;
            maker.box({0, 0, -1}, {40, 40, 1});
            Element barrier = with_value(Element{"barrier", {0, 0, 0}, deg, {}}, "one_way", true);
            maker.element_with(with_value(std::move(barrier), "size_m", Vec3(0.4, 6, 3)));
            const auto along = [&](const Play& play) { return glm::dot(flat(play.body().at), ahead); };
            Play play(maker, raised(ahead * -3.0 + aside * random.between(-2, 2), 0));
            const double radius = play.character.radius_m;
            while (along(play) < 0) play.go(1, towards(ahead));
            play.go(120, towards(-ahead)); // whoever was let in may turn back
            QVERIFY(along(play) < -1);
            play.go(240, towards(ahead));
            QVERIFY(along(play) > 1);
            play.go(240, towards(-ahead)); // and whoever is through may not
            QVERIFY2(std::abs(along(play) - 0.2 - radius) < 1e-3,
                     qPrintable(QString("round %1: %2").arg(round).arg(along(play))));
        }
    }

    void a_barrier_keeps_crates_out_or_lets_them_pass() {
        for (const bool one_way : {false, true})
            for (const bool crates : {false, true})
                for (const double deg : {0.0, 180.0}) {
                    LevelMaker maker;
                    maker.box({0, 0, -1}, {40, 10, 1});
                    maker.element_with(crate_at({0, 0, 0}));
                    Element barrier = with_value(Element{"barrier", {3, 0, 0}, deg, {}}, "one_way", one_way);
                    maker.element_with(with_value(std::move(barrier), "crates", crates));
                    Play play(maker, {-0.85, 0, 0});
                    play.go(360, towards({1, 0}));
                    const bool passes = crates && (!one_way || deg == 0);
                    if (passes)
                        QVERIFY(play.crate().x > 5);
                    else
                        QVERIFY2(std::abs(play.crate().x - 2.4) < 0.03,
                                 qPrintable(QString::number(play.crate().x)));
                }
    }

    void a_lift_carries_a_crate() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {4, 4, 1});
        Element lift = with_value(Element{"lift", {0, 6, 0}, 0, {}}, "size_m", Vec3(2, 2, 0.2));
        maker.element_with(with_value(std::move(lift), "stops", std::vector<Vec3>{{0, 6, 0}, {0, 6, 3}}));
        maker.element_with(crate_at({0, 6, 0.2}));
        Play play(maker);
        double highest = 0;
        for (int i = 0; i < 600; ++i) {
            play.go(1);
            const double deck = motion::shifts_of(*play.world.elements(), play.state).movers[0].z + 0.2;
            QVERIFY2(std::abs(play.crate().z - deck) < 0.08,
                     qPrintable(QString("step %1: %2").arg(i).arg(play.crate().z - deck)));
            highest = std::max(highest, play.crate().z);
        }
        QVERIFY(highest > 3.1);
    }

    void a_switch_is_used_once_for_each_press_of_the_key() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 10, 1});
        Element press = with_value(Element{"switch", {0.6, 0, 1}, 0, {}}, "mode", std::string("toggle"));
        maker.element_with(with_value(std::move(press), "by", std::string("use")));
        Play play(maker);
        const auto& elements = *play.world.elements();
        play.go(10);
        QVERIFY(!motion::is_on(elements, play.state.puzzle, 0)); // by standing beside it nothing happens
        play.go(30, k_use);
        QVERIFY(motion::is_on(elements, play.state.puzzle, 0));
        play.go(5), play.go(1, k_use);
        QVERIFY(!motion::is_on(elements, play.state.puzzle, 0));
        Play far(maker, {-1, 0, 0});
        far.go(5, k_use);
        QVERIFY(!motion::is_on(*far.world.elements(), far.state.puzzle, 0));
    }

    void a_skill_that_is_taken_counts() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 10, 1});
        Element item = with_value(Element{"item", {2, 0, 0}, 0, {}}, "gives", std::string("springs"));
        item = with_value(std::move(item), "skill", std::string("jump_height_m"));
        maker.element_with(with_value(std::move(item), "adds", 1.0));
        const auto apex = [&](const Vec3& at) {
            Play play(maker, at);
            play.go(5);
            double highest = 0;
            for (int i = 0; i < 120; ++i) {
                play.go(1, {Vec2(0), true, false, false});
                highest = std::max(highest, play.body().at.z);
            }
            return highest;
        };
        const double plain = Character{}.jump_height_m;
        QVERIFY(std::abs(apex({-3, 0, 0}) - plain) < 2e-3);
        QVERIFY(std::abs(apex({2, 0, 0}) - plain - 1) < 2e-3);
    }

    void a_foe_follows_the_wall_on_its_side() {
        LevelMaker maker; // a block of 4 by 4 in the middle of a floor
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.box({0, 0, 0}, {4, 4, 3});
        maker.element_with(foe_with("follows_left", {-2.4, 0, 0}, 90)); // goes north, the block on its right
        maker.element_with(foe_with("follows_right", {-2.4, 0, 0}, 90));
        Play play(maker, {8, 8, 0});
        const auto& along_edge = play.world.elements()->foes[0].course;
        const auto& round_block = play.world.elements()->foes[1].course;
        const auto farthest = [](const motion::Course& course, auto measure) {
            double out = 0;
            for (int step = course.steps() / 2; step < course.steps(); ++step)
                out = std::max(out, measure(course.at(step)));
            return out;
        };
        const auto from_middle = [](const Vec3& p) { return std::max(std::abs(p.x), std::abs(p.y)); };
        QVERIFY2(farthest(round_block, from_middle) < 2.6,
                 qPrintable(QString::number(farthest(round_block, from_middle))));
        QVERIFY2(farthest(along_edge, from_middle) > 9,
                 qPrintable(QString::number(farthest(along_edge, from_middle))));
        // It goes on from its course's end where it was before.
        const int end = round_block.steps() - 1;
        QVERIFY(glm::length(round_block.at(end) - round_block.at(round_block.next(end))) < 0.1);
    }

    void a_foe_that_wanders_keeps_to_the_ground_and_is_the_same_again() {
        test::Random random(1907);
        for (int round = 0; round < test::rounds(20); ++round) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 8, 1});
            maker.box({2, 1, 0}, {2, 2, 2});
            maker.element_with(
                with_value(foe_with("wanders", {-3, -2, 0}), "seed", double(random.whole(0, 1000))));
            Play a(maker, {5.5, 3.5, 0}), b(maker, {5.5, 3.5, 0});
            const auto& course = a.world.elements()->foes[0].course;
            QVERIFY(course.steps() > 120);
            for (int step = 0; step < course.steps(); step += 7) {
                const Vec3 at = course.at(step);
                QCOMPARE(at, b.world.elements()->foes[0].course.at(step));
                QVERIFY(std::abs(at.x) <= 6.2 && std::abs(at.y) <= 4.2);
                QVERIFY(!(at.x > 0.7 && at.x < 3.3 && at.y > -0.3 && at.y < 2.3));
            }
        }
    }

    void a_foe_comes_nearer_only_while_it_sees_the_figure() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 20, 1});
        maker.box({4, 3, 0}, {0.4, 6, 3}); // a wall that hides what is behind it, from y = 0 to 6
        maker.element_with(with_value(foe_with("comes_nearer", {8, 3, 0}), "sight_m", 12.0));
        Play hidden(maker, {0, 3, 0});
        hidden.go(240);
        QCOMPARE(motion::shifts_of(*hidden.world.elements(), hidden.state).foes[0], Vec3(0));
        Play seen(maker, {8, -3, 0});
        seen.go(120);
        const Vec3 moved = motion::shifts_of(*seen.world.elements(), seen.state).foes[0];
        QVERIFY2(std::abs(moved.y + 2) < 0.05 && moved.x == 0, qPrintable(QString::number(moved.y)));
        seen.go(240);
        QVERIFY(seen.body().dead);
    }

    void play_with_crates_is_the_same_again() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        for (const double x : {-2.0, 2.0}) maker.element_with(crate_at({x, 1, 0}));
        maker.element_with(with_value(foe_with("comes_nearer", {4, 4, 0}), "sight_m", 3.0));
        Play a(maker), b(maker);
        test::Random random(1911);
        Input input;
        for (int i = 0; i < 4000; ++i) {
            if (i % 20 == 0)
                input = {{random.whole(-1, 1), random.whole(-1, 1)},
                         random.chance(0.1),
                         false,
                         random.chance(0.1)};
            a.go(1, input), b.go(1, input);
            QVERIFY(a.state == b.state);
        }
        motion::Recording run;
        for (int i = 0; i < 300; ++i) run.add(towards({-1, 0.4}));
        const motion::PlayedRun played = motion::played(a.world, a.character, run);
        QCOMPARE(played.at(200).puzzle.moved.size(), size_t(2));
    }
};

RUBBLE_TEST(CratesTest)
#include "crates_test.moc"
