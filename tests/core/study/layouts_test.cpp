#include <QtTest/QtTest>

#include <cmath>

#include "core/check/goal_of.h"
#include "core/check/random_level.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "level/element_values.h"
#include "study/explorers.h"
#include "study/sides.h"
#include "study/versions.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;

namespace {

study::Exploration explored(const Level& level, double within_s = 180, int runs = 200) {
    study::ExplorersOptions options;
    options.runs = runs, options.within_s = within_s;
    const auto ends = [&](Role role) { return elements_of(level, role).at(0)->id; };
    auto out = study::run_explorers({}, level, ends(Role::start), ends(Role::goal), options);
    return out ? *out : study::Exploration{};
}

/// A corridor 4 m wide with walls, along x.
void corridor(LevelMaker& maker, double from, double to, double y = 0) {
    maker.box({(from + to) / 2, y, -1}, {to - from, 4, 1});
    for (const double side : {-2.25, 2.25}) maker.box({(from + to) / 2, y + side, 0}, {to - from, 0.5, 3});
}

/// Two bases that mirror each other across x = 0, with something between.
LevelMaker bases() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {60, 20, 1});
    for (const double side : {-1.0, 1.0}) {
        maker.box({side * 10, 4, 0}, {2, 6, 3});
        maker.box({side * 16, -4, 0}, {3, 2, 1});
        maker.box({side * 22, 0, 0}, {1, 4, 2});
        maker.start({side * 28, 0, 0});
        maker.goal({side * 25, 6, 0});
    }
    return maker;
}

} // namespace

/// Studies of a level as a whole: players who do not know it, its two sides, and what it was before.
class LayoutsTest : public QObject {
    Q_OBJECT

private slots:
    void who_sees_the_goal_goes_straight_there() {
        LevelMaker maker;
        corridor(maker, -1, 31);
        maker.start({0, 0, 0});
        maker.goal({30, 0, 0});
        const auto found = explored(maker.level());
        QCOMPARE(found.crowd.arrived, 200);
        const Character c;
        for (const double time : found.crowd.times_s) {
            QVERIFY(time > 26 / c.run_speed_mps);
            QVERIFY2(time < 36 / c.run_speed_mps + 1, qPrintable(QString::number(time)));
        }
    }

    void behind_a_fork_half_of_them_turn_back() {
        // From a start in the middle two ways lead round a corner; the goal is at the end of one.
        LevelMaker maker;
        maker.box({0, 0, -1}, {4, 4, 1});
        for (const double side : {-1.0, 1.0}) {
            maker.box({side * 12, 0, -1}, {20, 4, 1});
            maker.box({side * 20, -10, -1}, {4, 16, 1});
            for (const double y : {-2.25, 2.25})
                maker.box({side * (y < 0 ? 10 : 12), y, 0}, {y < 0 ? 16.0 : 20.0, 0.5, 3});
        }
        maker.element("start", {0, 0, 0}, 90); // looks at neither
        maker.goal({20, -16, 0});
        const auto found = explored(maker.level(), 120, 400);
        QCOMPARE(found.crowd.arrived, 400);
        // Straight there it is 36 m, by the other end twice 36 m more: nobody takes a time between.
        const double once = 36 / Character().run_speed_mps;
        const auto sooner_than = [&](double s) {
            return std::lower_bound(found.crowd.times_s.begin(), found.crowd.times_s.end(), s) -
                   found.crowd.times_s.begin();
        };
        const auto straight = sooner_than(1.8 * once);
        QVERIFY2(sooner_than(2 * once) - straight < 20, qPrintable(QString::number(straight)));
        QVERIFY2(straight > 100 && straight < 300, qPrintable(QString::number(straight)));
    }

    void what_lies_behind_the_goal_is_found_by_nobody() {
        LevelMaker maker;
        corridor(maker, -1, 61);
        maker.box({31, 1.5, 0}, {0.5, 5, 3}); // a screen with a way round it, behind which nobody sees
        maker.start({0, 0, 0});
        maker.goal({27, 0, 0});
        const auto found = explored(maker.level());
        QCOMPARE(found.crowd.arrived, 200);
        for (const auto& area : found.areas)
            if (area.at.x > 36) QCOMPARE(area.found_by, 0);
        QVERIFY(std::any_of(found.areas.begin(), found.areas.end(),
                            [](const auto& area) { return area.at.x > 36; }));
    }

    void the_same_seeds_give_the_same_runs_and_parts_add_up() {
        test::Random random(2901);
        const Level level = test::random_level(random, false, 20);
        Level with_goal = level;
        Item goal{{"goal"}, {}, false, Element{"goal", {15, 15, 0}, 0, {}}, {}};
        with_goal = edit::with_item(with_goal, 0, goal);
        const auto a = explored(with_goal, 60, 60), b = explored(with_goal, 60, 60);
        QVERIFY(a.crowd.runs == b.crowd.runs);
        for (size_t i = 0; i < a.areas.size(); ++i) QCOMPARE(a.areas[i].visits, b.areas[i].visits);
        for (const auto& run : a.crowd.runs) QVERIFY(run.seconds <= 60 && (run.arrived || run.seconds > 0));
    }

    void a_goal_that_nobody_gets_to_is_an_error() {
        LevelMaker maker;
        corridor(maker, -1, 11);
        corridor(maker, 30, 40);
        maker.start({0, 0, 0});
        maker.goal({35, 0, 0});
        const Level level = maker.level();
        const auto found = study::run_explorers({}, level, elements_of(level, Role::start)[0]->id,
                                                elements_of(level, Role::goal)[0]->id, {});
        QVERIFY(!found && found.error().code == "players.unreached");
    }

    void a_lift_is_a_way_and_a_door_is_open() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 4, 1});
        maker.box({12, 0, 5}, {10, 4, 1}); // 6 m higher
        maker.start({-4, 0, 0});
        maker.goal({15, 0, 6});
        Element lift{"lift", {6, 0, -0.2}, 0, {}};
        lift = with_value(lift, "stops", std::vector<Vec3>{{6, 0, -0.2}, {6, 0, 5.8}});
        maker.element_with(lift);
        QCOMPARE(explored(maker.level()).crowd.arrived, 200);
    }

    void mirrored_sides_are_fair_until_one_is_edited() {
        const Level level = bases().level();
        const auto symmetry = study::symmetry_of(level);
        QVERIFY(symmetry && symmetry->kind == study::Symmetry::Kind::across_x);
        QVERIFY(std::abs(symmetry->middle.x) < 1e-9);
        const auto fair = study::sides_of({}, level, test::checked(level));
        QVERIFY(fair && fair->odd.empty() && std::abs(fair->alike - 1) < 1e-9);
        QVERIFY(fair->ways.size() >= 2);
        for (const auto& way : fair->ways)
            QVERIFY2(way.fair(), qPrintable(QString::number(way.more_s().value_or(-1))));
        for (const auto& view : fair->views) QVERIFY(std::abs(view.here_m2 - view.there_m2) < 0.5);
        // A wall on one side alone: the way to the goal is longer there.
        LevelMaker maker = bases();
        const ItemId wall = maker.box({26.5, 5, 0}, {0.5, 8, 3});
        const auto unfair = study::sides_of({}, maker.level(), test::checked(maker.level()));
        QVERIFY(unfair && unfair->odd == std::vector<ItemId>{wall});
        QVERIFY(!unfair->ways.front().fair() && std::abs(*unfair->ways.front().more_s()) > 0.2);
    }

    void turned_levels_have_two_sides_too_and_others_none() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        for (const double side : {-1.0, 1.0}) {
            maker.box({side * 10, side * 3, 0}, {2, 6, 3});
            maker.box({side * 4, side * 12, 0}, {3, 1, 2});
            maker.box({side * -7, side * 9, 0}, {1.5, 2.5, 1});
            maker.start({side * 15, side * 15, 0});
        }
        const auto turned = study::symmetry_of(maker.level());
        QVERIFY(turned && turned->kind == study::Symmetry::Kind::turned);
        test::Random random(2902);
        QVERIFY(!study::symmetry_of(test::random_level(random)));
    }

    void an_earlier_version_tells_what_was_added_gone_and_moved() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 4, 1});
        const ItemId step = maker.box({7, 0, -1}, {2, 4, 1}), far_ledge = maker.box({14, 0, -1}, {6, 4, 1});
        maker.start({-4, 0, 0});
        maker.goal({15, 0, 0});
        const Level was = maker.level();
        Level now = edit::without(was, std::vector<ItemId>{step});
        Item moved = *find_item(now, far_ledge);
        Brush brush = *moved.brush();
        brush.place.at.y += 1.5;
        moved.body = brush;
        now = edit::with_changed(now, moved);
        Brush added;
        added.place.at = {-20, 0, -1}, added.size = {1, 1, 1};
        now = edit::with_item(now, 0, Item{{"added"}, {}, false, added, {}});
        const auto before = test::checked(was), after = test::checked(now);
        const auto difference = study::difference_of(was, before, now, after);
        QCOMPARE(difference.items.size(), size_t(3));
        using Kind = study::ItemChange::Kind;
        for (const study::ItemChange& change : difference.items) {
            const Kind wanted = change.item == step        ? Kind::gone
                                : change.item == far_ledge ? Kind::moved
                                                           : Kind::added;
            QCOMPARE(int(change.kind), int(wanted));
            if (wanted == Kind::moved) QVERIFY(glm::length(change.by() - Vec3(0, 1.5, 0)) < 1e-9);
        }
        // The step and the far ledge are no longer got to; what there was of them is lost to the square
        // metre.
        double lost = 0, won = 0;
        for (const auto& ground : difference.ground) (ground.gained ? won : lost) += ground.area_m2;
        QVERIFY(lost > 5 && won < lost);
        QVERIFY(std::abs((won - lost) - (study::reached_m2(after) - study::reached_m2(before))) < 1.0);
        // Nothing differs from itself.
        const auto same = study::difference_of(was, before, was, before);
        QVERIFY(same.items.empty() && same.ground.empty() && same.checks.empty());
        // The run to the same end is found again.
        const auto& place = before.places.back();
        QVERIFY(place.witness);
        QCOMPARE(study::same_run(before, before, *place.witness), &*place.witness);
    }
};

RUBBLE_TEST(LayoutsTest)
#include "layouts_test.moc"
