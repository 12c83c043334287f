#include <QtTest/QtTest>

#include <cmath>

#include "check/flight.h"
#include "core/check/goal_of.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "study/what_if.h"
#include "test_program.h"

using namespace rubble;
using check::ClaimState;
using test::LevelMaker;

namespace {

/// Two platforms with a gap between them, one higher than the other, and the claim that one gets across.
Level gap_level(double gap, double rise) {
    LevelMaker maker;
    maker.box({-5, 0, -1}, {10, 8, 1});
    maker.box({gap + 4, 0, rise - 1}, {8, 8, 1});
    maker.change("late_jump_grace_s", 0);
    const ItemId start = maker.start({-8, 0, 0}), goal = maker.goal({gap + 6, 0, rise});
    maker.claim(Claim::Kind::reaches, start, goal);
    return maker.level();
}

const CharacterField& field(const char* key) { return *find_character_field(key); }

} // namespace

/// Levels with other metrics, and how far these may go.
class WhatIfTest : public QObject {
    Q_OBJECT

private slots:
    void the_least_jump_is_that_of_the_closed_form() {
        test::Random random(2201);
        for (int round = 0; round < test::rounds(8); ++round) {
            const double rise = random.between(0.3, 0.9), gap = random.between(1, 2.5);
            const Level level = gap_level(gap, rise);
            const check::CheckResult result = test::checked(level);
            QCOMPARE(result.claims[0].state, ClaimState::holds);
            const study::MetricLimit limit = study::limit_of({}, level, result, field("jump_height_m"));
            Character c = result.character;
            double low = rise, high = c.jump_height_m; // where the longest gap is the gap
            for (int i = 0; i < 60; ++i) {
                c.jump_height_m = (low + high) / 2;
                (check::longest_gap(c, rise).value_or(0) >= gap ? high : low) = c.jump_height_m;
            }
            QVERIFY2(
                std::abs(limit.limit - high) < 0.03,
                qPrintable(
                    QString("gap %1 rise %2: %3, wanted %4").arg(gap).arg(rise).arg(limit.limit).arg(high)));
            QCOMPARE(limit.breaks, std::vector<ClaimId>{result.claims[0].id});
        }
    }

    void what_does_not_matter_has_its_whole_range() {
        const Level level = gap_level(2, 0);
        const auto result = test::checked(level);
        for (const auto& [key, limit] : {std::pair("eye_height_m", 1.65), {"climb_speed_mps", 0.0}}) {
            const study::MetricLimit found = study::limit_of({}, level, result, field(key));
            QCOMPARE(found.limit, limit);
            QVERIFY(found.breaks.empty());
        }
    }

    void the_largest_figure_is_as_wide_as_the_passage() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 8, 1});
        for (const double y : {-2.5, 2.5}) maker.box({0, y, 0}, {1, 3.6, 4}); // 1.4 m between them
        const ItemId start = maker.start({-5, 0, 0}), goal = maker.goal({5, 0, 0});
        for (const double y : {-4.0, 4.0}) maker.box({0, y, 0}, {20, 0.2, 4});
        maker.claim(Claim::Kind::reaches, start, goal);
        const Level level = maker.level();
        const auto limit = study::limit_of({}, level, test::checked(level), field("radius_m"));
        QVERIFY2(std::abs(limit.limit - 0.7) < 0.02, qPrintable(QString::number(limit.limit)));
    }

    void other_metrics_change_grades_and_break_claims() {
        const Level level = gap_level(2.8, 0); // of 4.76: easy
        const check::CheckResult result = test::checked(level);
        QCOMPARE(result.spans.at(0).grade, check::Grade::easy);
        const auto with_speed = [&](double speed) {
            const study::MetricChange change{{"courier"}, &field("run_speed_mps"), speed};
            return study::what_if({}, level, result, std::span(&change, 1));
        };
        QVERIFY(with_speed(6).comparison.empty() && !with_speed(6).comparison.got_worse());
        const study::WhatIf slower = with_speed(4.2); // reaches 3.5
        QCOMPARE(slower.comparison.spans.size(), size_t(1));
        QVERIFY(slower.comparison.spans[0].now->grade == check::Grade::fair);
        QVERIFY(slower.comparison.claims.empty() && !slower.comparison.got_worse());
        const study::WhatIf slow = with_speed(2.5); // reaches 2.3
        QVERIFY(slow.comparison.got_worse());
        QCOMPARE(slow.comparison.claims.at(0).now, std::optional(ClaimState::fails));
        QVERIFY(slow.comparison.reached_now_m2 < slow.comparison.reached_was_m2 - 50);
    }

    void metrics_are_read_from_text() {
        const auto change = study::metric_change_from({}, "courier.jump_height_m=1.1");
        QVERIFY(change && change->field == &field("jump_height_m") && change->value == 1.1);
        for (const char* bad :
             {"", "jump=1", "courier.jump_height_m", "courier.nothing=1", "porter.radius_m=0.3",
              "courier.radius_m=wide", "courier.radius_m=-1", "courier.radius_m=nan"})
            QVERIFY2(!study::metric_change_from({}, bad), bad);
    }
};

RUBBLE_TEST(WhatIfTest)
#include "what_if_test.moc"
