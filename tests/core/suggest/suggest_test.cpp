#include <QtTest/QtTest>

#include "core/check/goal_of.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "io/project_file.h"
#include "level/element_values.h"
#include "suggest/suggest.h"
#include "test_program.h"

using namespace rubble;
using suggest::Suggestion;
using test::LevelMaker;

namespace {

std::shared_ptr<const check::CheckResult> checked(const Project& project, const Level& level) {
    return std::make_shared<const check::CheckResult>(check::check_level(project, level));
}

/// A hall with side rooms, a shelf that nobody gets onto, and a long way through it.
Level hall() {
    LevelMaker maker;
    maker.box({30, 0, -1}, {70, 40, 1});
    for (int i = 0; i < 6; ++i) maker.box({i * 10.0, i % 2 ? 8.0 : -8.0, 0}, {0.5, 24, 4});
    for (int i = 0; i < 3; ++i) maker.box({5 + i * 20.0, 17, 0}, {6, 4, 3});
    const ItemId start = maker.start({-3, 15, 0}), goal = maker.goal({62, -15, 0});
    maker.claim(Claim::Kind::reaches, start, goal);
    return maker.level();
}

} // namespace

/// What is suggested holds, and follows what is kept.
class SuggestTest : public QObject {
    Q_OBJECT

private slots:
    void what_is_suggested_was_tried() {
        const Project project;
        const Level level = hall();
        const auto result = checked(project, level);
        QCOMPARE(result->claims.at(0).state, check::ClaimState::holds);
        const auto found = suggest::suggested(project, level, result);
        QCOMPARE(found.size(), size_t(suggest::most_suggestions));
        std::set<std::string> kinds, names;
        for (const Suggestion& one : found) {
            kinds.insert(one.kind), names.insert(suggest::name_of(level, one));
            QVERIFY(!one.items.empty() && !one.reason.empty());
            const auto with = checked(project, suggest::with(level, 0, one));
            QCOMPARE(with->claims.at(0).state, check::ClaimState::holds);
            for (const check::Place& place : with->places)
                if (place.item == one.items[0].id && one.kind == "pickup")
                    QCOMPARE(place.reached, check::Reached::yes);
            // A ladder leads where nobody got before.
            if (one.kind != "ladder") continue;
            const auto area = [](const check::CheckResult& of) {
                double sum = 0;
                for (int i = 0; i < int(of.ground->ledges.size()); ++i)
                    if (of.reach->tinted(i)) sum += of.ground->ledges[size_t(i)].area_m2;
                return sum;
            };
            QVERIFY(area(*with) > area(*result) + 1);
        }
        QVERIFY(kinds.size() >= 3);
        QCOMPARE(names.size(), found.size());
        // What was thrown away does not come again.
        suggest::SuggestOptions options;
        options.not_again = names;
        for (const Suggestion& one : suggest::suggested(project, level, result, options))
            QVERIFY(!names.contains(suggest::name_of(level, one)));
    }

    void nothing_is_suggested_that_breaks_a_claim() {
        // The shelf must not be reached: no ladder is suggested.
        Level level = hall();
        Layer layer = *level.layers[0];
        layer.items.push_back(Item{{"shelf"}, {}, false, Element{"place", {5, 17, 3}, 0, {}}, {}});
        level.layers[0] = layer;
        ItemId start;
        for (const auto& item : level.layers[0]->items)
            if (item->element() && item->element()->kind == "start") start = item->id;
        level.claims.push_back({{"c9"}, {}, Claim::Kind::not_reaches, start, {"shelf"}, {}, {}, 0, {}});
        for (const Suggestion& one : suggest::suggested({}, level, checked({}, level))) {
            const auto with = checked({}, suggest::with(level, 0, one));
            for (const check::ClaimResult& claim : with->claims)
                QCOMPARE(claim.state, check::ClaimState::holds);
        }
    }

    void where_there_are_tiles_tiles_are_suggested() {
        const std::string gap(20, '.'), ground(14, '#'); // ten metres
        Level level = test::tile_level({std::string(48, '.'), std::string(48, '.'), std::string(48, '.'),
                                        std::string(48, '.'), std::string(48, '.'), ground + gap + ground,
                                        ground + gap + ground});
        level = test::with_element(level, "start", "start", {2, 0, 1});
        level = test::with_element(level, "goal", "goal", {21, 0, 1});
        const auto result = checked({}, level);
        QCOMPARE(test::goal_of(*result, level), check::Reached::no);
        int of_cells = 0;
        for (const Suggestion& one : suggest::suggested({}, level, result)) {
            if (one.cells.empty()) continue;
            ++of_cells;
            QCOMPARE(one.kind, std::string("step"));
            QCOMPARE(test::goal_of(suggest::with(level, 1, one)), check::Reached::yes);
        }
        QVERIFY(of_cells > 0);
    }

    void the_project_learns_what_is_kept() {
        for (const std::string liked : {"pickup", "ladder"}) {
            Project project;
            Level level = hall();
            auto result = checked(project, level);
            int of_kind = 0, all = 0;
            for (int round = 0; round < 8; ++round) {
                const auto found = suggest::suggested(project, level, result);
                QVERIFY(!found.empty());
                for (const Suggestion& one : found) {
                    const bool keep = one.kind == liked;
                    project = keep ? suggest::with_kept(project, one.kind)
                                   : suggest::with_thrown(project, one.kind);
                    if (keep && liked == "pickup") level = suggest::with(level, 0, one);
                    if (round >= 6) of_kind += keep, ++all;
                }
                result = checked(project, level);
            }
            // There are but so many places for a ladder.
            if (liked == "pickup")
                QVERIFY2(of_kind * 10 >= all * 7, qPrintable(QString("%1 of %2").arg(of_kind).arg(all)));
            QVERIFY(suggest::liking(project, liked) > 0.8);
            QVERIFY(suggest::liking(suggest::with_nothing_learned(project), liked) == 0.5);
        }
    }

    void what_was_learned_is_kept_in_the_project() {
        Project project;
        project.name = "Cannery";
        project = suggest::with_kept(suggest::with_kept(project, "pickup"), "foe");
        project = suggest::with_thrown(project, "foe");
        const auto again = io::project_from_text(io::text_of(project), "p");
        QVERIFY(again.has_value());
        QCOMPARE(again->habits, project.habits);
        QVERIFY(!io::project_from_text(R"({"format":1,"name":"x","suggestions":{"foe":{"kept":-1}}})", "p"));
    }
};

RUBBLE_TEST(SuggestTest)
#include "suggest_test.moc"
