#include <QtTest/QtTest>

#include "check/check.h"
#include "core/check/fixtures.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::first_claim;
using test::LevelMaker;
using test::Random;

namespace {

/// A place in a level turned about the origin.
struct Turned {
    double deg;
    Vec3 operator()(double x, double y, double z) const {
        const auto [c, s] = cos_sin(deg);
        return {x * c - y * s, x * s + y * c, z};
    }
};

/// A floor across which a wall goes, with one passage of a width and a height.
Level passage(double width, double height, double deg, double thickness,
              const CharacterChanges& changes = {}) {
    LevelMaker maker;
    const Turned at{deg};
    maker.box({0, 0, -1}, {40, 40, 1});
    maker.box(at(0, -10 - width / 2, 0), {thickness, 20, 6}, deg);
    maker.box(at(0, 10 + width / 2, 0), {thickness, 20, 6}, deg);
    if (height < 6) maker.box(at(0, 0, height), {thickness, width + 2, 6 - height}, deg);
    // Walls all round, so that nobody goes round the outside.
    for (int side = 0; side < 4; ++side)
        maker.box(at(side == 0   ? 8
                     : side == 1 ? -8
                                 : 0,
                     side == 2   ? 8
                     : side == 3 ? -8
                                 : 0,
                     0),
                  {side < 2 ? 1.0 : 17.0, side < 2 ? 17.0 : 1.0, 6}, deg);
    const ItemId start = maker.start(at(-4, 1.3, 0)), goal = maker.goal(at(4, -2, 0));
    maker.claim(Claim::Kind::reaches, start, goal);
    for (const auto& [key, value] : changes) maker.change(key, value);
    return maker.level();
}

} // namespace

class WalkTest : public QObject {
    Q_OBJECT

private slots:
    void passages_are_found_by_their_width_at_any_angle() {
        Random random(4201);
        for (int i = 0; i < test::rounds(60); ++i) {
            const double deg = random.between(0, 360), radius = random.between(0.2, 0.6),
                         thickness = random.between(0.1, 2);
            const CharacterChanges changes{{"radius_m", radius}};
            QVERIFY2(first_claim(passage(2 * radius + 0.05, 6, deg, thickness, changes)) == ClaimState::holds,
                     qPrintable(QString("turned %1, radius %2, thick %3: not found")
                                    .arg(deg)
                                    .arg(radius)
                                    .arg(thickness)));
            QVERIFY2(first_claim(passage(2 * radius + 0.02, 6, deg, thickness, changes)) == ClaimState::holds,
                     qPrintable(QString("turned %1, radius %2, thick %3: not found at 2 cm")
                                    .arg(deg)
                                    .arg(radius)
                                    .arg(thickness)));
            QVERIFY2(first_claim(passage(2 * radius - 0.02, 6, deg, thickness, changes)) == ClaimState::fails,
                     qPrintable(QString("turned %1, radius %2, thick %3: too narrow")
                                    .arg(deg)
                                    .arg(radius)
                                    .arg(thickness)));
        }
    }

    void headroom_flips_at_the_body_upright_and_crouched() {
        Random random(4202);
        for (int i = 0; i < test::rounds(20); ++i) {
            const double deg = random.between(0, 360);
            const CharacterChanges upright{{"crouched_height_m", 0}};
            QCOMPARE(first_claim(passage(2, 1.82, deg, 1, upright)), ClaimState::holds);
            QCOMPARE(first_claim(passage(2, 1.78, deg, 1, upright)), ClaimState::fails);
            QCOMPARE(first_claim(passage(2, 1.02, deg, 1)), ClaimState::holds);
            QCOMPARE(first_claim(passage(2, 0.98, deg, 1)), ClaimState::fails);
        }
    }

    void steps_flip_at_their_height_where_nobody_jumps() {
        Random random(4203);
        for (int i = 0; i < test::rounds(20); ++i) {
            const double step = random.between(0.2, 0.6), deg = random.between(0, 360);
            for (double off : {-0.02, 0.02}) {
                LevelMaker maker;
                maker.box({0, 0, -1}, {20, 20, 1});
                maker.box({4, 0, 0}, {3, 3, step + off}, deg);
                maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({4, 0, step + off}));
                maker.change("step_height_m", step);
                maker.change("jump_height_m", 0);
                maker.change("low_jump_height_m", 0);
                QCOMPARE(first_claim(maker.level()), off < 0 ? ClaimState::holds : ClaimState::fails);
            }
        }
    }

    void slopes_flip_at_their_angle() {
        for (double deg : {44.0, 45.0, 46.5}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {30, 30, 1});
            const double height = 2 * std::tan(radians(deg));
            maker.ramp({3, 0, 0}, {2, 3, height});
            maker.box({6, 0, 0}, {4, 3, height});
            maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({6, 0, height}));
            maker.change("jump_height_m", 0);
            maker.change("low_jump_height_m", 0);
            QCOMPARE(first_claim(maker.level()), deg < 45.5 ? ClaimState::holds : ClaimState::fails);
        }
    }

    void stairs_make_one_ledge_and_drops_lead_back() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 30, 1});
        for (int i = 0; i < 10; ++i) maker.box({2 + i * 0.4, 0, 0}, {0.4, 2, 0.35 * (i + 1)});
        maker.box({7.8, 0, 0}, {4, 2, 3.5});
        const ItemId start = maker.start({-4, 0, 0}), goal = maker.goal({8, 0, 3.5});
        maker.claim(Claim::Kind::reaches, start, goal);
        maker.claim(Claim::Kind::returns, start, goal);
        maker.claim(Claim::Kind::not_reaches, start, goal);
        const CheckResult result = check_level({}, maker.level());
        QCOMPARE(result.claims[0].state, ClaimState::holds);
        QCOMPARE(result.claims[1].state, ClaimState::holds);
        QCOMPARE(result.claims[2].state, ClaimState::fails);
        QVERIFY(result.claims[0].witness && result.claims[0].witness->legs.size() == 1);
    }

    void a_window_is_climbed_through_by_a_box() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 30, 1});
        maker.box({4, 0, 0}, {0.3, 34, 4}); // longer than the floor: nobody swings round its end
        maker.cut({4, 0, 1.5}, {1, 1.4, 1.4});
        const ItemId start = maker.start({0, 0, 0}), goal = maker.goal({8, 0, 0});
        maker.claim(Claim::Kind::reaches, start, goal);
        QCOMPARE(first_claim(maker.level()), ClaimState::fails);
        maker.box({3, 0, 0}, {1, 1, 0.75});
        QCOMPARE(first_claim(maker.level()), ClaimState::holds);
    }

    void a_pit_is_a_trap() {
        LevelMaker maker;
        maker.box({0, 0, -3}, {12, 12, 3});
        maker.cut({0, 0, -2.5}, {3, 3, 3});
        const ItemId start = maker.start({-4, 0, 0}), pit = maker.goal({0, 0, -2.5});
        maker.claim(Claim::Kind::reaches, start, pit);
        maker.claim(Claim::Kind::returns, start, pit);
        const CheckResult result = check_level({}, maker.level());
        QCOMPARE(result.claims[0].state, ClaimState::holds);
        QCOMPARE(result.claims[1].state, ClaimState::fails);
    }
};

RUBBLE_TEST(WalkTest)
#include "walk_test.moc"
