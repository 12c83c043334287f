#include <QtTest/QtTest>

#include "check/check.h"
#include "core/check/fixtures.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::GapFixture;
using test::LevelMaker;

namespace {

/// Checks that the first claim fails for want of `limit`, by about `missing`, and that every mend offered
/// makes it hold.
void misses_and_mends(const Level& level, const char* limit, double missing, size_t least_mends) {
    const CheckResult result = check_level({}, level);
    QVERIFY2(result.claims[0].state == ClaimState::fails, limit);
    QVERIFY2(!result.near_misses.empty(), limit);
    const NearMiss& miss = result.near_misses[0];
    QCOMPARE(std::string(limit_key(miss.limit)), std::string(limit));
    const double found = miss.limit == Limit::slope ? miss.missing_deg : miss.missing_m;
    QVERIFY2(std::abs(found - missing) < 0.03 + 0.02 * missing,
             qPrintable(QString("%1 missing, expected %2").arg(found).arg(missing)));
    QVERIFY2(miss.mends.size() >= least_mends, qPrintable(QString("%1 mends").arg(miss.mends.size())));
    for (const Mend& mend : miss.mends)
        QVERIFY2(test::first_claim(mended(level, mend)) == ClaimState::holds,
                 in_english(mend.says, level).c_str());
    QVERIFY(in_english(result.claims[0].reason, level).find(in_english(miss.says, level)) !=
            std::string::npos);
}

/// Two rooms with a wall between them, its opening of a width and a height.
Level rooms(double width, double height) {
    LevelMaker maker;
    maker.box({0, 0, -1}, {12, 12, 1});
    maker.box({0, -3 - width / 2, 0}, {0.5, 6, 5});
    maker.box({0, 3 + width / 2, 0}, {0.5, 6, 5});
    if (height < 5) maker.box({0, 0, height}, {0.5, width, 5 - height});
    for (double side : {-1.0, 1.0}) {
        maker.box({6.25 * side, 0, 0}, {0.5, 13, 5});
        maker.box({0, 6.25 * side, 0}, {13, 0.5, 5});
    }
    maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({4, 0, 0}));
    return maker.level();
}

} // namespace

class NearMissTest : public QObject {
    Q_OBJECT

private slots:
    void a_gap_is_told_and_mended() {
        misses_and_mends(GapFixture{5.6, 0, 0}.level({}), "gap", 5.6 - 4.757, 1);
    }

    void a_gap_at_a_heading_is_told() {
        misses_and_mends(GapFixture{5.6, 0, 30}.level({}), "gap", 5.6 - 4.757, 0);
    }

    void a_height_is_told_and_mended() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.box({4, 0, 0}, {3, 3, 1.5});
        maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({4, 0, 1.5}));
        misses_and_mends(maker.level(), "height", 0.3, 2);
    }

    void a_step_is_told_where_nobody_jumps() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.box({4, 0, 0}, {3, 3, 0.55});
        maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({4, 0, 0.55}));
        maker.change("jump_height_m", 0);
        maker.change("low_jump_height_m", 0);
        misses_and_mends(maker.level(), "step", 0.15, 1);
    }

    void a_slope_is_told_and_mended() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 12, 1});
        const double height = 4, length = height / std::tan(radians(48.0));
        maker.ramp({2 + length / 2, 0, 0}, {length, 3, height});
        maker.box({2 + length + 2, 0, 0}, {4, 3, height});
        maker.claim(Claim::Kind::reaches, maker.start({-4, 0, 0}), maker.goal({2 + length + 2, 0, height}));
        misses_and_mends(maker.level(), "slope", 3, 1);
    }

    void a_width_is_told_and_mended() { misses_and_mends(rooms(0.5, 5), "width", 0.1, 1); }

    void a_headroom_is_told_and_mended() { misses_and_mends(rooms(1.5, 0.9), "headroom", 0.1, 1); }

    void a_mend_that_breaks_another_claim_says_so() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.box({4, 0, 0}, {3, 3, 1.5});
        maker.box({4, 5, 0}, {3, 3, 2.6}); // reached from the first box as soon as that is
        const ItemId start = maker.start({-4, 0, 0}), goal = maker.goal({4, 0, 1.5}),
                     roof = maker.element("place", {4, 5, 2.6});
        maker.claim(Claim::Kind::reaches, start, goal);
        maker.claim(Claim::Kind::not_reaches, start, roof);
        const CheckResult result = check_level({}, maker.level());
        QVERIFY(result.claims[1].state == ClaimState::holds);
        bool said = false;
        for (const NearMiss& miss : result.near_misses)
            for (const Mend& mend : miss.mends) said |= !mend.breaks.empty();
        QVERIFY(said);
    }
};

RUBBLE_TEST(NearMissTest)
#include "near_miss_test.moc"
