#include <QtTest/QtTest>

#include <algorithm>

#include "check/pace.h"
#include "core/level_maker.h"
#include "level/element_values.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::LevelMaker;

namespace {

/// Platforms in a row with gaps between them, over nothing or over ground that one gets out of again; the
/// start on the first, the goal on the last.
struct Row {
    std::vector<double> gaps_m;
    double long_m = 12;
    double harmless_until_m = 0; ///< ground below from the beginning to here

    LevelMaker maker() const {
        LevelMaker maker;
        double x = 0;
        for (size_t i = 0; i <= gaps_m.size(); ++i) {
            maker.box({x + long_m / 2, 0, -1}, {long_m, 4, 1});
            x += long_m;
            if (i < gaps_m.size()) x += gaps_m[i];
        }
        if (harmless_until_m > 0) maker.box({harmless_until_m / 2, 0, -2}, {harmless_until_m, 4, 1});
        maker.start({1, 0, 0});
        maker.goal({x - 1, 0, 0});
        return maker;
    }
};

CheckResult explained(const Level& level) {
    CheckOptions options;
    options.mends = false;
    return check_level({}, level, options);
}

int count_of(const CheckResult& result, RuleId rule) {
    return int(std::count_if(result.findings.begin(), result.findings.end(),
                             [&](const Finding& one) { return one.rule == rule; }));
}
int remarks(const LevelMaker& maker, RuleId rule) { return count_of(explained(maker.level()), rule); }

Pace pace_to_goal(const LevelMaker& maker) {
    const Level level = maker.level();
    const CheckResult result = explained(level);
    for (const Place& place : result.places)
        if (find_item(level, place.item)->element()->kind == "goal" && place.witness)
            return pace_of({}, level, result, *place.witness);
    return {};
}

} // namespace

/// What a run says about how a level is played and learned.
class PaceTest : public QObject {
    Q_OBJECT

private slots:
    void a_straight_way_is_one_rest() {
        LevelMaker maker;
        maker.box({30, 0, -1}, {64, 10, 1});
        for (const double y : {-1.75, 1.75}) maker.box({30, y, 0}, {64, 0.5, 3}); // 3 m between them
        maker.box({61.75, 0, 0}, {0.5, 3, 3});
        maker.start({0, 0, 0});
        maker.goal({58, 0, 0});
        const Pace pace = pace_to_goal(maker);
        QVERIFY2(std::abs(pace.seconds - 58 / 6.0) < 0.5, qPrintable(QString::number(pace.seconds)));
        QVERIFY(pace.leaps.empty() && pace.remarks.empty());
        QCOMPARE(pace.rests.size(), size_t(1));
        QVERIFY(pace.rests[0].begin_s == 0 && pace.rests[0].end_s == pace.seconds);
        QCOMPARE(pace.windows.size(), size_t(2));
        QVERIFY(std::abs(pace.windows[0].corridor_m - 3) < 0.1);
        QVERIFY2(std::abs(pace.windows[0].view_m - (61.5 - 15)) < 4,
                 qPrintable(QString::number(pace.windows[0].view_m)));
        QVERIFY(pace.windows[0].effort == 0 && pace.windows[0].spans == 0);
    }

    void the_effort_is_what_spans_lack() {
        const Pace pace = pace_to_goal(Row{{2, 3}}.maker());
        QCOMPARE(pace.leaps.size(), size_t(2));
        double effort = 0, lacking = 0;
        for (const Pace::Window& window : pace.windows) effort += window.effort;
        for (const Pace::Leap& leap : pace.leaps) lacking += 100 - leap.span.margin_pct;
        QVERIFY(std::abs(effort - lacking) < 1e-6 && lacking > 50);
    }

    void foes_and_hazards_near_are_dangers() {
        LevelMaker maker;
        maker.box({20, 0, -1}, {44, 12, 1});
        maker.start({0, 0, 0});
        maker.goal({38, 0, 0});
        maker.element_with(with_value(Element{"hazard", {20, 3, 0}, 0, {}}, "size_m", Vec3(1, 1, 1)));
        const Pace pace = pace_to_goal(maker);
        int dangers = 0;
        for (const Pace::Window& window : pace.windows) dangers += window.dangers;
        QVERIFY(dangers >= 1 && dangers <= 2);
        QCOMPARE(pace.rests.size(), size_t(1)); // before it; after it there are under three seconds
    }

    void what_is_met_is_told_in_its_order() {
        LevelMaker maker;
        maker.box({30, 0, -1}, {64, 6, 1});
        maker.start({0, 0, 0});
        const ItemId second = maker.element("pickup", {30, 0, 0}),
                     first = maker.element("pickup", {12, 0, 0});
        maker.goal({58, 0, 0});
        const Pace pace = pace_to_goal(maker);
        QVERIFY(pace.events.size() >= 2);
        QVERIFY(pace.events[0].item == first && pace.events[1].item == second);
        QVERIFY(std::abs(pace.events[0].at_s - 2) < 0.2);
        QCOMPARE(pace.windows[0].pick_ups, 1);
    }

    void the_first_of_a_kind_must_not_kill() {
        Row row{{2, 2}};
        QCOMPARE(remarks(row.maker(), RuleId::deadly_first), 1);
        row.harmless_until_m = 20; // below the first gap
        QCOMPARE(remarks(row.maker(), RuleId::deadly_first), 0);
    }

    void the_hardest_comes_late() {
        QCOMPARE(remarks(Row{{3.6, 2, 2, 2, 2}}.maker(), RuleId::hardest_early), 1);
        QCOMPARE(remarks(Row{{2, 2, 3.6, 2, 2}}.maker(), RuleId::hardest_early), 0);
        QCOMPARE(remarks(Row{{3.6, 2}}.maker(), RuleId::hardest_early), 0); // too few to tell
    }

    void once_a_minute_one_rests() {
        QCOMPARE(remarks(Row{std::vector<double>(28, 2.0)}.maker(), RuleId::no_rest), 1);
        QCOMPARE(remarks(Row{std::vector<double>(14, 2.0)}.maker(), RuleId::no_rest), 0);
    }

    void new_things_come_one_after_the_other() {
        for (const double apart : {4.0, 20.0}) {
            LevelMaker maker;
            maker.box({30, 0, -1}, {64, 6, 1});
            maker.start({0, 0, 0});
            maker.element("pickup", {10, 0, 0});
            maker.element("checkpoint", {10 + apart, 0, 0});
            maker.goal({58, 0, 0});
            QCOMPARE(remarks(maker, RuleId::two_new), apart < 10 ? 1 : 0);
        }
        // A key and its door are one thing.
        LevelMaker maker;
        maker.box({30, 0, -1}, {64, 6, 1});
        maker.start({0, 0, 0});
        maker.element("key", {10, 0, 0});
        Element door = with_value(Element{"door", {15, 0, 0}, 90, {}}, "key", std::string("brass"));
        maker.element_with(with_value(std::move(door), "size_m", Vec3(8, 0.2, 3)));
        maker.goal({58, 0, 0});
        QCOMPARE(remarks(maker, RuleId::two_new), 0);
        QCOMPARE(pace_to_goal(maker).events.size(), size_t(2));
    }
};

RUBBLE_TEST(PaceTest)
#include "pace_test.moc"
