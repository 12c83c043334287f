#include <QtTest/QtTest>

#include "check/check.h"
#include "check/excuses.h"
#include "core/level_maker.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::LevelMaker;

namespace {

LevelMaker clean() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {20, 20, 1});
    maker.start({-6, 0, 0});
    maker.goal({-6, 3, 0});
    return maker;
}

bool found(const LevelMaker& maker, const std::string& rule) {
    for (const Finding& finding : check_level({}, maker.level()).findings)
        if (rule_of(finding.rule).key == rule) return !finding.says.empty();
    return false;
}

} // namespace

/// Each rule with a case just inside, one just outside, and a clean level.
class FindingsTest : public QObject {
    Q_OBJECT

private slots:
    void a_clean_level_gives_none() { QVERIFY(check_level({}, clean().level()).findings.empty()); }

    void a_missing_start_or_goal() {
        LevelMaker no_start;
        no_start.box({0, 0, -1}, {20, 20, 1});
        no_start.goal({0, 0, 0});
        QVERIFY(found(no_start, "start.none") && !found(no_start, "goal.none"));
        LevelMaker no_goal;
        no_goal.box({0, 0, -1}, {20, 20, 1});
        no_goal.start({0, 0, 0});
        QVERIFY(found(no_goal, "goal.none") && !found(no_goal, "start.none"));
    }

    void a_start_in_matter_or_over_nothing() {
        LevelMaker maker = clean();
        maker.box({-5.75 + 0.5, 0, 0}, {1, 1, 3}); // its side 5 cm within the body
        QVERIFY(found(maker, "start.in_matter"));
        maker = clean();
        maker.box({-5.65 + 0.5, 0, 0}, {1, 1, 3}); // 5 cm beside it
        QVERIFY(!found(maker, "start.in_matter"));
        LevelMaker over;
        over.box({0, 0, -1}, {20, 20, 1});
        over.goal({0, 0, 0});
        over.start({12, 0, 0});
        QVERIFY(found(over, "start.over_nothing"));
    }

    void an_element_out_of_reach() {
        for (double height : {1.1, 1.3}) {
            LevelMaker maker = clean();
            maker.box({4, 0, 0}, {3, 3, height});
            maker.goal({4, 0, height});
            QCOMPARE(found(maker, "element.unreachable"), height > 1.2);
        }
    }

    void a_lip_just_too_high() {
        for (double height : {0.38, 0.45, 0.60}) {
            LevelMaker maker = clean();
            maker.box({4, 0, 0}, {3, 3, height});
            QCOMPARE(found(maker, "walk.lip"), height == 0.45);
        }
    }

    void a_slope_just_too_steep() {
        for (double deg : {44.0, 48.0, 53.0}) {
            LevelMaker maker = clean();
            maker.ramp({4, 0, 0}, {2, 3, 2 * std::tan(radians(deg))});
            QCOMPARE(found(maker, "walk.slope"), deg == 48.0);
        }
    }

    void a_passage_just_too_narrow() {
        for (double width : {0.40, 0.50, 0.65}) {
            LevelMaker maker = clean();
            maker.box({4, -1 - width / 2, 0}, {1, 2, 3});
            maker.box({4, 1 + width / 2, 0}, {1, 2, 3});
            QCOMPARE(found(maker, "walk.narrow"), width == 0.50);
        }
    }

    void a_passage_just_too_low() {
        for (double height : {0.80, 0.90, 1.10, 1.70, 1.85}) {
            LevelMaker maker = clean();
            maker.box({4, 0, height}, {2, 2, 1});
            QCOMPARE(found(maker, "walk.headroom"), height == 0.90 || height == 1.70);
        }
    }

    void what_misses_by_a_hair_leaves_a_sliver() {
        for (const double by : {0.004, -0.004, 0.0, 0.02}) {
            LevelMaker maker = clean();
            maker.box({4, 0, 0}, {2, 2, 1});
            maker.box({6, 0, 0}, {2, 2, 1 + by}); // a lip beside it
            QCOMPARE(found(maker, "build.sliver"), std::abs(by) > 0 && std::abs(by) < 0.01);
        }
    }

    void a_hair_of_air_or_of_wall_is_a_sliver() {
        for (const double by : {0.0, 0.004, 0.02}) {
            LevelMaker gap = clean();
            gap.box({4, 0, 0}, {2, 2, 1});
            gap.box({6 + by, 0, 0}, {2, 2, 1});
            QCOMPARE(found(gap, "build.sliver"), by == 0.004);
            LevelMaker wall = clean();
            wall.box({4, 0, 0}, {4, 0.5, 3});
            wall.cut({4 - by / 2, 0, 1}, {4 - by, 1, 1}); // leaves so much of the wall at its end
            QCOMPARE(found(wall, "build.sliver"), by == 0.004);
            LevelMaker apart = clean(); // near each other in one direction, but not behind each other
            apart.box({4, 0, 0}, {2, 2, 1});
            apart.box({6 + by, 3, 0}, {2, 2, 1});
            QVERIFY(!found(apart, "build.sliver"));
        }
    }

    void a_sloped_gap_is_a_sliver_too() {
        for (const double by : {0.004, 0.03}) {
            LevelMaker maker = clean();
            maker.box({4, 0, 0}, {2, 2, 1}, 30);
            const auto [c, s] = cos_sin(30);
            maker.box({4 + (2 + by) * c, (2 + by) * s, 0}, {2, 2, 1}, 30);
            QCOMPARE(found(maker, "build.sliver"), by == 0.004);
        }
    }

    void a_thin_brush_is_meant_so() {
        LevelMaker maker = clean();
        maker.box({4, 0, 0}, {2, 2, 0.005}); // a mat
        QVERIFY(!found(maker, "build.sliver"));
        maker.box({4, 2, 0}, {2, 2, 1});
        maker.box({6, 2, 0}, {2, 2, 1.003});
        QVERIFY(found(maker, "build.sliver"));
    }

    void a_sliver_names_both_brushes_and_its_width() {
        LevelMaker maker = clean();
        maker.box({4, 0, 0}, {2, 2, 1});
        maker.box({6, 0, 0}, {2, 2, 1.004});
        const CheckResult result = check_level({}, maker.level());
        const auto sliver = std::find_if(result.findings.begin(), result.findings.end(),
                                         [](const Finding& f) { return f.rule == RuleId::build_sliver; });
        QVERIFY(sliver != result.findings.end());
        QCOMPARE(sliver->items.size(), size_t(2));
        QVERIFY(in_english(sliver->says, maker.level()).find("4.0 mm") != std::string::npos);
        QVERIFY(std::abs(sliver->at.x - 5) < 0.01 && std::abs(sliver->at.z - 1.002) < 0.001);
    }

    void an_excused_finding_stands_apart_until_it_moves() {
        LevelMaker maker = clean();
        maker.box({4, 0, 0}, {2, 2, 0.45}); // a lip
        Level level = maker.level();
        const CheckResult plain = check_level({}, level);
        QCOMPARE(plain.findings.size(), size_t(1));
        const Finding lip = plain.findings[0];
        level.excuses.push_back(excuse_of(lip, "A bench."));
        const auto judged = [](const Level& l) {
            const CheckResult result = check_level({}, l);
            return std::pair(result.findings.size(), result.excused.size());
        };
        QCOMPARE(judged(level), std::pair(size_t(0), size_t(1)));
        QCOMPARE(check_level({}, level).excused[0].reason, std::string("A bench."));
        const auto excuse = level.excuses[0];
        for (const double away : {0.99, 1.01}) {
            level.excuses[0].at = excuse.at + Vec3(0, 0, away);
            QCOMPARE(judged(level).second, size_t(away < 1));
        }
        level.excuses[0] = excuse, level.excuses[0].items.push_back({"other"});
        QCOMPARE(judged(level).second, size_t(0));
        level.excuses[0] = excuse, level.excuses[0].rule = "walk.slope";
        QCOMPARE(judged(level).second, size_t(0));
        level.excuses.clear();
        Project project;
        project.rules_off = {"walk.lip"};
        const CheckResult left_out = check_level(project, level);
        QVERIFY(left_out.findings.empty() && left_out.excused.empty());
    }

    void every_rule_has_a_key_of_its_own_and_a_page_in_the_guide() {
        QFile file(RUBBLE_SOURCE_DIR "/docs/guide.md");
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QString guide = QString::fromUtf8(file.readAll());
        std::set<std::string> keys;
        for (const Rule& rule : rules()) {
            QVERIFY2(keys.insert(rule.key).second, rule.key);
            QVERIFY2(guide.contains(QStringLiteral("\n## %1 (").arg(rule.guide)), rule.key);
            QVERIFY2(
                guide.contains(
                    QStringLiteral("- `%1` (%2): %3").arg(rule.key, severity_key(rule.severity), rule.about)),
                rule.key);
            QCOMPARE(rule_of(rule.id).key, rule.key);
        }
    }

    void sentences_are_made_of_numbers_and_names() {
        LevelMaker maker = clean();
        const ItemId box = maker.box({4, 0, 0}, {2, 2, 1});
        const Sentences says{
            {"%2 is %1 wide, %3 steep: %4.", {Metres{1.234}, box, Degrees{45.06}, Term{"fair"}}},
            {"%1 and 100 %.", {std::string("%1")}}};
        QCOMPARE(in_english(says, maker.level()),
                 "brush " + box.value + " is 1.23 m wide, 45.1° steep: fair. %1 and 100 %.");
        QCOMPARE(in_english(Word(ItemId{"gone"}), maker.level()), std::string("gone"));
    }
};

RUBBLE_TEST(FindingsTest)
#include "findings_test.moc"
