#include <QtTest/QtTest>

#include "check/flight.h"
#include "core/check/fixtures.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::first_claim;
using test::GapFixture;
using test::Random;

namespace {

Character with(const CharacterChanges& changes) {
    Character c;
    for (const auto& [key, value] : changes) c.*find_character_field(key)->member = value;
    return c;
}

/// Checks just inside and just outside of the longest gap.
void flips_at(double longest, double rise, double heading, const CharacterChanges& changes,
              double depth = 8) {
    const double slack = std::max(0.02, 0.01 * longest);
    GapFixture fixture{longest - slack, rise, heading, depth};
    QVERIFY2(first_claim(fixture.level(changes)) == ClaimState::holds,
             qPrintable(QString("gap %1 rise %2 heading %3 depth %4 should be cleared")
                            .arg(fixture.gap_m)
                            .arg(rise)
                            .arg(heading)
                            .arg(depth)));
    fixture.gap_m = longest + slack;
    QVERIFY2(first_claim(fixture.level(changes)) == ClaimState::fails,
             qPrintable(QString("gap %1 rise %2 heading %3 depth %4 should not be cleared")
                            .arg(fixture.gap_m)
                            .arg(rise)
                            .arg(heading)
                            .arg(depth)));
}

const CharacterChanges k_porter{{"jump_height_m", 0.9},
                                {"run_speed_mps", 4.5},
                                {"radius_m", 0.4},
                                {"height_m", 1.9},
                                {"low_jump_height_m", 0.3}};

} // namespace

class SpansTest : public QObject {
    Q_OBJECT

private slots:
    void closed_forms_have_their_known_values() {
        const Character c;
        QVERIFY(std::abs(*flight_time(c, 0) - 0.6928) < 1e-4);
        QVERIFY(std::abs(*longest_gap(c, 0) - 4.757) < 1e-3);
        QVERIFY(std::abs(*longest_gap(c, 1) - 3.527) < 1e-3);
        QVERIFY(std::abs(*longest_gap(c, -2) - 6.073) < 1e-3);
        QVERIFY(!longest_gap(c, 1.21));
        Character twice;
        twice.further_jumps = 1;
        QVERIFY(std::abs(*longest_gap(twice, 0) - 8.914) < 1e-3);
        QVERIFY(std::abs(*longest_gap(twice, 1) - 7.932) < 1e-3);
        QVERIFY(std::abs(*longest_gap(twice, 2) - 6.454) < 1e-3);
    }

    void verdicts_flip_at_the_closed_form_for_the_demo_characters() {
        Random random(4101);
        for (const CharacterChanges& changes : {CharacterChanges{}, k_porter})
            for (int heading = 0; heading < 8; ++heading) {
                const double rise = random.between(-3, with(changes).jump_height_m * 0.95);
                flips_at(*longest_gap(with(changes), rise), rise, heading * 45 + 7, changes);
            }
    }

    void verdicts_flip_at_the_closed_form_for_random_metrics() {
        Random random(4102);
        for (int i = 0; i < test::rounds(40); ++i) {
            CharacterChanges changes{{"jump_height_m", random.between(0.5, 2.5)},
                                     {"run_speed_mps", random.between(3, 9)},
                                     {"radius_m", random.between(0.2, 0.5)},
                                     {"gravity_up_mps2", random.between(10, 30)},
                                     {"gravity_down_mps2", random.between(10, 40)},
                                     {"air_acceleration_mps2", random.between(0, 30)},
                                     {"ground_acceleration_mps2", random.between(20, 80)}};
            const Character c = with(changes);
            const double rise = random.between(-3, c.jump_height_m * 0.95);
            // A step-off may reach farther than a jump only below; the jump always lasts longer.
            flips_at(*longest_gap(c, rise), rise, random.between(0, 360), changes);
        }
    }

    void a_short_run_up_shortens_the_gap() {
        Random random(4103);
        for (double depth : {0.05, 0.2, 0.5, 1.0}) {
            const Character c;
            const double run_up = depth + 2 * c.radius_m;
            flips_at(*longest_gap(c, 0, run_up), 0, random.between(0, 360), {}, depth);
        }
    }

    void further_jumps_flip_where_their_equal_parts_end() {
        const CharacterChanges twice{{"further_jumps", 1}};
        for (double rise : {0.0, 1.0, 2.0, -1.0}) flips_at(*longest_gap(with(twice), rise), rise, 30, twice);
    }

    void walking_off_reaches_as_far_as_falling_lasts() {
        const CharacterChanges grounded{{"jump_height_m", 0}, {"low_jump_height_m", 0}};
        for (double drop : {0.8, 1.5, 3.0})
            flips_at(longest_step_off(with(grounded), drop, 1e9), -drop, 60, grounded);
    }

    void the_apex_is_the_highest_rise() {
        for (double rise : {1.18, 1.22}) {
            GapFixture fixture{0.5, rise, 15};
            QCOMPARE(first_claim(fixture.level({})), rise < 1.2 ? ClaimState::holds : ClaimState::fails);
        }
    }

    void pulling_up_adds_its_height_to_the_apex() {
        for (const double pull : {0.1, 0.5, 1.4})
            for (const double off : {-0.02, 0.02}) {
                const CharacterChanges changes{{"pull_up_m", pull}};
                const GapFixture fixture{0.5, 1.2 + pull + off, 40};
                QVERIFY2(first_claim(fixture.level(changes)) ==
                             (off < 0 ? ClaimState::holds : ClaimState::fails),
                         qPrintable(QString("pull %1, %2").arg(pull).arg(off)));
            }
    }

    void pulling_up_reaches_as_far_as_the_flight_to_the_face_lasts() {
        Random random(4107);
        for (int i = 0; i < test::rounds(20); ++i) {
            const double pull = random.between(0.2, 1.4);
            const CharacterChanges changes{{"pull_up_m", pull}};
            const double rise = random.between(-2, 1.1 + pull);
            flips_at(*longest_gap_pulling(with(changes), rise, 1e9), rise, random.between(0, 360), changes);
        }
        const CharacterChanges grounded{{"jump_height_m", 0}, {"low_jump_height_m", 0}, {"pull_up_m", 1.0}};
        for (const double rise : {-1.0, 0.0, 0.5})
            flips_at(longest_step_off(with(grounded), 1.0 - rise, 1e9), rise, 75, grounded);
    }

    void a_pulled_up_span_says_so() {
        const CheckResult result = check_level({}, GapFixture{3.0, 1.8, 0}.level({{"pull_up_m", 1.0}}));
        QCOMPARE(result.spans.size(), size_t(1));
        QVERIFY(result.spans[0].kind == LinkKind::pull_up);
        QVERIFY(std::abs(result.spans[0].highest_m - 2.2) < 1e-6);
        QVERIFY(std::abs(result.spans[0].rise_margin_m - 0.4) < 1e-2);
        QVERIFY(std::abs(result.spans[0].gap_m - 3.0) < 0.02);
    }

    void a_span_tells_gap_rise_margins_and_grade() {
        const CheckResult result = check_level({}, GapFixture{4.0, 0, 0}.level({}));
        QCOMPARE(result.spans.size(), size_t(1));
        const Span& span = result.spans[0];
        QVERIFY(std::abs(span.gap_m - 4.0) < 1e-4);
        QVERIFY(std::abs(span.margin_m - 0.757) < 1e-3);
        QVERIFY(std::abs(span.margin_pct - 15.9) < 0.1);
        QVERIFY(span.grade == Grade::fair);
        QCOMPARE(result.claims[0].state, ClaimState::holds);
        QVERIFY(result.claims[0].time_s > 1 && result.claims[0].time_s < 4);
    }

    void a_place_within_a_grace_is_reached_with_help_only() {
        const CheckResult result = check_level({}, GapFixture{5.0, 0, 0}.level({}));
        QCOMPARE(result.claims[0].state, ClaimState::fails);
        QCOMPARE(result.places[1].reached, Reached::with_help);
        const CheckResult beyond = check_level({}, GapFixture{5.8, 0, 0}.level({}));
        QCOMPARE(beyond.places[1].reached, Reached::no);
    }
};

RUBBLE_TEST(SpansTest)
#include "spans_test.moc"
