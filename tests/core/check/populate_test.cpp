#include <QtTest/QtTest>

#include <algorithm>
#include <set>

#include "check/foe_watch.h"
#include "core/check/goal_of.h"
#include "core/level_maker.h"
#include "core/tile_level.h"
#include "edit/chance.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "level/element_values.h"
#include "level/kinds_of_play.h"
#include "level/level_order.h"
#include "solve/solve.h"
#include "test_program.h"

using namespace rubble;
using check::ClaimState;
using check::Reached;
using check::RuleId;
using test::goal_of;
using test::LevelMaker;

namespace {

Element with_word(const char* kind, const Vec3& at, const char* key, const std::string& value) {
    return with_value(Element{kind, at, 0, {}}, key, value);
}

Element of_size(const char* kind, const Vec3& at, const Vec3& size) {
    return with_value(Element{kind, at, 0, {}}, "size_m", size);
}

/// A floor of 20 by 8, from x = -10.
LevelMaker floor_maker() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {20, 8, 1});
    return maker;
}

int count_of(const Project& project, const Level& level, RuleId rule) {
    check::CheckOptions options;
    options.explain = options.mends = false;
    const check::CheckResult result = check::check_level(project, with_files_of(project, level), options);
    return int(std::count_if(result.findings.begin(), result.findings.end(),
                             [&](const check::Finding& finding) { return finding.rule == rule; }));
}

std::shared_ptr<const ElementKind> limited(const char* key, int least, int most) {
    ElementKind kind = kind_of(std::string(key));
    kind.at_least = least, kind.at_most = most;
    return std::make_shared<const ElementKind>(std::move(kind));
}

} // namespace

/// What projects say of elements and play, and what checks make of crates, skills, use and time.
class PopulateTest : public QObject {
    Q_OBJECT

private slots:
    void a_crate_is_pushed_to_where_it_is_a_step() {
        for (const bool crate : {false, true}) {
            LevelMaker maker = floor_maker();
            maker.box({8, 0, 0}, {4, 8, 1.8}); // its face at x = 6; a jump comes to 1.2
            maker.start({-6, 0, 0});
            maker.goal({8, 0, 1.8});
            if (crate) maker.element_with(with_value(Element{"crate", {0, 0, 0}, 0, {}}, "size_m", 1.0));
            QCOMPARE(goal_of(maker.level()), crate ? Reached::yes : Reached::no);
        }
    }

    void a_crate_holds_a_door_open() {
        LevelMaker maker = floor_maker();
        for (const double y : {-2.3, 2.3}) maker.box({5, y, 0}, {0.2, 3.4, 4});
        for (const double y : {-4.0, 4.0}) maker.box({0, y, 0}, {20, 0.2, 4});
        maker.start({-6, 0, 0});
        maker.goal({8, 0, 0});
        Element press = with_word("switch", {2, 2, 0}, "mode", "held");
        const ItemId by = maker.element_with(with_value(std::move(press), "by", std::string("crate")));
        Element door =
            with_value(of_size("door", {5, 0, 0}, {1.2, 0.2, 3.9}), "open_by", std::vector{by.value});
        door.facing_deg = 90;
        maker.element_with(door);
        QVERIFY(goal_of(maker.level()) != Reached::yes);
        maker.element_with(with_value(Element{"crate", {0, 2, 0}, 0, {}}, "size_m", 1.0));
        QCOMPARE(goal_of(maker.level()), Reached::yes);
        Level nobody = maker.level();
        nobody.rules.nobody_pushes = true;
        QVERIFY(goal_of(nobody) != Reached::yes);
    }

    void a_barrier_leads_one_way() {
        for (const Frame frame : {Frame::space, Frame::side})
            for (const double deg : {0.0, 180.0}) {
                LevelMaker maker = floor_maker();
                if (frame == Frame::space) {
                    for (const double y : {-2.3, 2.3}) maker.box({1, y, 0}, {0.3, 3.4, 4});
                    for (const double y : {-4.0, 4.0}) maker.box({0, y, 0}, {20, 0.2, 4});
                }
                Element barrier = with_value(of_size("barrier", {1, 0, 0}, {0.3, 1.2, 4}), "one_way", true);
                barrier.facing_deg = deg;
                maker.element_with(barrier);
                const ItemId start = maker.start({-6, 0, 0}), goal = maker.goal({8, 0, 0});
                maker.claim(Claim::Kind::returns, start, goal);
                Level level = maker.level();
                level.frame = frame;
                const check::CheckResult result = test::checked(level);
                QCOMPARE(goal_of(result, level), deg == 0 ? Reached::yes : Reached::no);
                QCOMPARE(result.claims[0].state, ClaimState::fails);
            }
    }

    void what_is_taken_lets_jump_higher() {
        for (const double adds : {0.0, 0.6, 1.0}) { // the ledge is 0.9 too high
            LevelMaker maker = floor_maker();
            maker.box({8, 0, 0}, {4, 8, 2.1});
            maker.start({-6, 0, 0});
            maker.goal({8, 0, 2.1});
            if (adds > 0) {
                Element item = with_word("item", {-3, 2, 0}, "skill", "jump_height_m");
                maker.element_with(with_value(std::move(item), "adds", adds));
            }
            QCOMPARE(goal_of(maker.level()), adds > 0.9 ? Reached::yes : Reached::no);
        }
    }

    void a_switch_is_used_on_the_way() {
        LevelMaker maker = floor_maker();
        for (const double y : {-2.3, 2.3}) maker.box({3, y, 0}, {0.2, 3.4, 4});
        for (const double y : {-4.0, 4.0}) maker.box({0, y, 0}, {20, 0.2, 4});
        maker.start({-6, 0, 0});
        maker.goal({8, 0, 0});
        const ItemId by = maker.element_with(with_word("switch", {-2, 2, 0}, "by", "use"));
        Element door =
            with_value(of_size("door", {3, 0, 0}, {1.2, 0.2, 3.9}), "open_by", std::vector{by.value});
        door.facing_deg = 90;
        maker.element_with(door);
        QCOMPARE(goal_of(maker.level()), Reached::yes);
    }

    void a_project_limits_how_many_there_are() {
        Project project;
        project.element_kinds = {limited("pickup", 2, 5)};
        for (const int count : {1, 2, 5, 6}) {
            LevelMaker maker = floor_maker();
            maker.start({-6, 0, 0});
            maker.goal({6, 0, 0});
            for (int i = 0; i < count; ++i) maker.element("pickup", {i - 3.0, 2, 0});
            QCOMPARE(count_of(project, maker.level(), RuleId::too_many), count > 5 ? 1 : 0);
            QCOMPARE(count_of(project, maker.level(), RuleId::too_few), count < 2 ? 1 : 0);
        }
    }

    void the_time_that_a_level_allows_is_enough_or_not() {
        for (const double seconds : {1.9, 2.6}) { // twelve metres at six a second, and a little to set out
            LevelMaker maker = floor_maker();
            maker.start({-6, 0, 0});
            maker.goal({6, 0, 0});
            maker.element_with(with_value(Element{"time_limit", {-6, 2, 0}, 0, {}}, "seconds", seconds));
            QCOMPARE(count_of({}, maker.level(), RuleId::out_of_time), seconds < 2 ? 1 : 0);
        }
    }

    void claims_are_to_hold_with_others_too() {
        Project project;
        NamedCharacter tall, small;
        tall.id = {"courier"}, tall.name = "Courier";
        small.id = {"child"}, small.name = "Child", small.metrics.jump_height_m = 0.5;
        project.characters = {tall, small};
        project.rule_sets = {{"still", {false, false, false, true}}};
        LevelMaker maker = floor_maker();
        maker.box({8, 0, 0}, {4, 8, 1});
        const ItemId from = maker.start({-6, 0, 0}), to = maker.goal({8, 0, 1});
        maker.claim(Claim::Kind::reaches, from, to);
        Level level = maker.level();
        const auto state = [&] { return check::check_level(project, level).claims[0].state; };
        QCOMPARE(state(), ClaimState::holds);
        level.also_proven = {{{"child"}, {}}};
        QCOMPARE(state(), ClaimState::fails);
        const std::string says =
            check::in_english(check::check_level(project, level).claims[0].reason, level);
        QVERIFY2(says.find("Child") != std::string::npos, says.c_str());
        // A crate before the ledge helps the child, but not where nobody pushes.
        maker = floor_maker();
        maker.box({8, 0, 0}, {4, 8, 0.9});
        maker.start({-6, 0, 0}), maker.goal({8, 0, 0.9});
        maker.element_with(with_value(Element{"crate", {2, 0, 0}, 0, {}}, "size_m", 0.45));
        maker.claim(Claim::Kind::reaches, from, to);
        level = maker.level();
        level.also_proven = {{{"child"}, {}}};
        QCOMPARE(state(), ClaimState::holds);
        level.also_proven = {{{"child"}, "still"}};
        QVERIFY(state() != ClaimState::holds);
    }

    void one_gets_stuck_in_a_pit_or_not() {
        for (const bool ladder : {false, true}) {
            LevelMaker maker;
            maker.box({-5, 0, -4}, {10, 8, 4});
            maker.box({7, 0, -4}, {10, 8, 4}); // a pit from x = 0 to 2, 3 deep
            maker.box({1, 0, -4}, {2, 8, 1});
            const ItemId from = maker.start({-6, 0, 0});
            maker.goal({8, 0, 0});
            maker.element("pickup", {-2, 2, 0});
            maker.element("key", {-3, 2, 0});
            Element door = of_size("door", {6, 0, 0}, {1.2, 0.2, 2.9});
            maker.element_with(with_value(std::move(door), "key", std::string("brass")));
            if (ladder)
                maker.element_with(with_value(Element{"ladder", {2, 0, -3}, 180, {}}, "height_m", 3.0));
            maker.claim(Claim::Kind::never_stuck, from, {});
            const Level level = maker.level();
            const check::ClaimResult claim = check::check_level({}, level).claims[0];
            const std::string says = check::in_english(claim.reason, level);
            QVERIFY2(claim.state == (ladder ? ClaimState::holds : ClaimState::fails), says.c_str());
        }
    }

    void own_kinds_act_as_what_they_are_like() {
        const char* const text = R"({"format": 1, "element_kinds": [
            {"key": "steam", "name": "Steam vent", "acts_as": "hazard", "at_most": 2,
             "fields": [{"key": "pressure", "type": "number", "unit": "bar", "least": 0, "most": 9, "usual": 3},
                        {"key": "lamp", "type": "color"}]},
            {"key": "pickup", "at_most": 5}]})";
        const auto project = io::project_from_text(text, "project.json");
        QVERIFY2(project.has_value(), project ? "" : project.error().text().c_str());
        QCOMPARE(project->element_kinds.size(), size_t(2));
        const auto again = io::project_from_text(io::text_of(*project), "project.json");
        QVERIFY(again.has_value());
        for (size_t i = 0; i < 2; ++i) QVERIFY(*again->element_kinds[i] == *project->element_kinds[i]);

        LevelMaker maker = floor_maker(); // the vent stands across the floor
        maker.start({-6, 0, 0});
        maker.goal({6, 0, 0});
        maker.element_with(of_size("steam", {0, 0, 0}, {2, 10, 4}));
        Level level = maker.level();
        QCOMPARE(goal_of(level), Reached::yes); // nobody knows yet what it is
        level = with_files_of(*project, level);
        QCOMPARE(goal_of(level), Reached::no);
        const Element& vent = *find_item(level, {"e4"})->element();
        QCOMPARE(number_of(vent, "pressure"), 3.0);
        QCOMPARE(acts_as(vent), std::string("hazard"));
        const auto read = io::level_from_text(io::text_of(level), "a.level.json");
        QVERIFY(read && with_files_of(*project, *read) == level);
    }

    void damaged_kinds_are_refused_with_their_place() {
        for (const char* kinds :
             {R"([{"name": "x"}])", R"([{"key": "a", "acts_as": "dragon"}])",
              R"([{"key": "a", "sign": "moon"}])", R"([{"key": "a", "at_most": 1.5}])",
              R"([{"key": "a", "fields": [{"type": "number"}]}])",
              R"([{"key": "a", "fields": [{"key": "b", "type": "choice"}]}])", R"([3])"}) {
            const auto project =
                io::project_from_text(R"({"format": 1, "element_kinds": )" + std::string(kinds) + "}", "p");
            QVERIFY2(!project.has_value(), kinds);
            QVERIFY(project.error().text().find("element_kinds") != std::string::npos);
        }
    }

    void a_kind_of_play_says_what_is_unusual_for_it() {
        LevelMaker maker = floor_maker();
        maker.start({-6, 0, 0});
        maker.goal({6, 0, 0});
        maker.element_with(with_value(Element{"crate", {0, 3, 0}, 0, {}}, "size_m", 1.0));
        for (const double x : {-2.0, 0.0, 2.0}) maker.element("pickup", {x, -2, 0});
        Level level = maker.level();
        QCOMPARE(count_of({}, level, RuleId::unusual_kind), 0);
        level.about = "gather";
        QCOMPARE(count_of({}, level, RuleId::unusual_kind), 1);
        QCOMPARE(count_of({}, level, RuleId::not_spread), 1);
        level.about = "push";
        QCOMPARE(count_of({}, level, RuleId::unusual_kind), 0);
        QCOMPARE(count_of({}, level, RuleId::not_spread), 0);
        maker.element("pickup", {9, 3, 0}), maker.element("pickup", {-9, 3, 0});
        level = maker.level();
        level.about = "gather";
        QCOMPARE(count_of({}, level, RuleId::not_spread), 0);
        Project project;
        project.kinds_of_play = {{"gather", "Gather", {}, {}, {}}};
        QCOMPARE(count_of(project, level, RuleId::unusual_kind), 0);
        QCOMPARE(kinds_of_play(project).size(), kinds_of_play({}).size());
    }

    void a_foe_is_seen_from_before_or_not() {
        for (const bool hidden : {false, true}) {
            LevelMaker maker = floor_maker();
            maker.start({-9, 0, 0});
            maker.goal({9, 0, 0});
            Element foe = of_size("foe", {4, -3, 0}, {0.8, 0.8, 1.6});
            maker.element_with(
                with_value(with_value(std::move(foe), "path", std::vector<Vec3>{{4, -3, 0}, {4, 3, 0}}),
                           "way", std::string("back_and_forth")));
            if (hidden) // a wall with a passage at its end, right before the foe's way
                maker.box({2.6, -0.6, 0}, {0.2, 6.8, 4});
            Level level = maker.level();
            level.about = "slip_past";
            QCOMPARE(count_of({}, level, RuleId::not_seen_before), hidden ? 1 : 0);
        }
    }

    void a_dead_end_leads_on_through_the_thinnest_wall() {
        // A corridor with a branch that ends one cell before where the corridor turns back.
        Level level = test::tile_level({"###########", "#.........#", "####.####.#", "####.####.#",
                                        "####.####.#", "#########.#", "#.........#", "###########"},
                                       1, Frame::plan);
        Layer play = *level.layers.back();
        play.items.push_back(Item{{"s"}, {}, false, Element{"start", {1.5, 6.5, 0}, 0, {}}, {}});
        play.items.push_back(Item{{"g"}, {}, false, Element{"goal", {1.5, 1.5, 0}, 0, {}}, {}});
        level.layers.back() = Shared<Layer>(std::move(play));
        const check::CheckResult result = check::check_level({}, level);
        QVERIFY(result.maze && result.maze->dead_ends.size() == 1);
        QCOMPARE(result.maze->openings.size(), size_t(1));
        const auto& opening = result.maze->openings[0];
        QVERIFY2(std::abs(opening.to.x - 4.5) < 0.3 && opening.to.y < 2 && std::abs(opening.wall_m - 1) < 0.3,
                 qPrintable(QString("%1 %2 %3").arg(opening.to.x).arg(opening.to.y).arg(opening.wall_m)));
        QVERIFY(opening.saves_m > 4);
    }

    void one_of_several_is_there_at_a_time() {
        LevelMaker maker = floor_maker();
        maker.box({8, 0, 0}, {4, 8, 1.8});
        const ItemId from = maker.start({-6, 0, 0}), to = maker.goal({-8, 0, 0});
        for (const Vec3 at : {Vec3(-2, 0, 0), Vec3(2, 0, 0), Vec3(8, 0, 1.8)}) // the last is out of reach
            maker.element_with(with_word("pickup", at, "one_of", "A"));
        maker.claim(Claim::Kind::all_pickups, from, {});
        Level level = maker.level();
        QVERIFY(edit::has_chance(level));
        QCOMPARE(edit::outcomes_of(level, 10).sources.size(), size_t(3));
        std::set<std::string> seen;
        for (uint64_t seed = 0; seed < 60; ++seed) {
            const Level one = edit::drawn({}, level, seed);
            std::vector<std::string> there;
            for (const Item* item : elements_of(one))
                if (item->element()->kind == "pickup") there.push_back(item->id.value);
            QCOMPARE(there.size(), size_t(1));
            seen.insert(there[0]);
        }
        QCOMPARE(seen.size(), size_t(3));
        // A claim is to hold for each of them.
        LevelMaker near = floor_maker();
        const ItemId a = near.start({-6, 0, 0});
        near.goal({-8, 0, 0});
        for (const double x : {-2.0, 2.0}) near.element_with(with_word("pickup", {x, 0, 0}, "one_of", "A"));
        near.claim(Claim::Kind::all_pickups, a, {});
        QCOMPARE(check::check_level({}, near.level()).claims[0].state, ClaimState::holds);
        QCOMPARE(check::check_level({}, level).claims[0].state, ClaimState::fails);
        (void)to;
    }

    void what_is_missing_by_cells_is_said() {
        Level level =
            test::tile_level({"#######", "#..#..#", "#.....#", "#..#..#", "#######"}, 1, Frame::plan);
        level.walked = Walked::by_cells;
        for (const bool behind : {false, true}) {
            Layer play = *level.layers.back();
            const auto put = [&](const char* id, Element element) {
                play.items.push_back(Item{{id}, {}, false, std::move(element), {}});
            };
            put("s", {"start", {1.5, 2.5, 0}, 0, {}}), put("g", {"goal", {5.5, 2.5, 0}, 0, {}});
            put("d", with_word("door", {3.5, 2.5, 0}, "key", "brass"));
            if (behind) put("k", with_word("key", {5.5, 3.5, 0}, "kind", "brass"));
            Level one = level;
            one.layers.back() = Shared<Layer>(std::move(play));
            one.claims.push_back({{"c"}, {}, Claim::Kind::reaches, {"s"}, {"g"}, {}, {}, 0, {}});
            const check::CheckResult result = check::check_level({}, one);
            QCOMPARE(result.claims[0].state, ClaimState::fails);
            const std::string says = check::in_english(result.claims[0].reason, one);
            QVERIFY2(says.find("brass key") != std::string::npos, says.c_str());
            QCOMPARE(says.find("lies behind it too") != std::string::npos, behind);
        }
    }

    void a_door_has_room_behind_it() {
        for (const double gap : {0.5, 0.7}) { // the figure is 0.6 wide
            LevelMaker maker = floor_maker();
            maker.start({-6, 0, 0});
            maker.goal({6, 0, 0});
            for (const double side : {-1.0, 1.0}) maker.box({0, side * (gap / 2 + 2), 0}, {0.4, 4, 3});
            Element door = of_size("door", {0, 0, 0}, {2, 0.2, 2.9});
            door.facing_deg = 90;
            maker.element_with(with_value(std::move(door), "open", true));
            QCOMPARE(count_of({}, maker.level(), RuleId::door_no_room), gap < 0.6 ? 1 : 0);
        }
    }

    void a_foe_that_sees_the_start_is_said() {
        for (const double far : {7.5, 8.5}) { // it sees eight metres
            LevelMaker maker = floor_maker();
            maker.start({-6, 0, 0});
            maker.goal({-8, 3, 0});
            Element foe = of_size("foe", {-6 + far, 0, 0}, {0.8, 0.8, 1.6});
            foe = with_value(std::move(foe), "way", std::string("comes_nearer"));
            maker.element_with(with_value(std::move(foe), "sight_m", 8.0));
            QCOMPARE(count_of({}, maker.level(), RuleId::foe_near_start), far < 8 ? 1 : 0);
        }
    }

    void a_crate_that_nobody_pushes_is_said_freely_too() {
        for (const double room : {0.5, 0.8}) { // beside it, for a figure that is 0.6 wide
            LevelMaker maker = floor_maker();
            maker.start({-6, 0, 0});
            maker.goal({-8, 3, 0});
            maker.element_with(with_value(Element{"crate", {0, 0, 0}, 0, {}}, "size_m", 1.0));
            for (const double side : {-1.0, 1.0}) {
                maker.box({side * (1 + room), 0, 0}, {1, 3, 3});
                maker.box({0, side, 0}, {1 + 2 * room, 1, 3});
            }
            QCOMPARE(count_of({}, maker.level(), RuleId::crate_stuck), room < 0.6 ? 1 : 0);
        }
    }

    void who_does_not_push_gets_no_help_from_crates() {
        Project project;
        NamedCharacter weak;
        weak.id = {"courier"}, weak.metrics.push_part = 0;
        project.characters = {weak};
        Level level = test::tile_level({"#####", "#...#", "###.#", "#####"}, 1, Frame::plan);
        level.walked = Walked::by_cells, level.character = {"courier"};
        QVERIFY(with_files_of(project, level).rules.nobody_pushes);
        QVERIFY(!with_files_of({}, level).rules.nobody_pushes);
    }

    void levels_are_walked_in_the_order_in_which_goals_lead_on() {
        std::vector<Level> levels(4);
        const char* const names[] = {"c", "a", "d", "b"};
        const char* const next[] = {"a", "", "c", ""}; // d leads to c, c to a
        for (size_t i = 0; i < 4; ++i) {
            LevelMaker maker;
            maker.element_with(with_word("goal", Vec3(0), "leads_to", next[i]));
            levels[i] = maker.level();
            levels[i].name = names[i];
        }
        QCOMPARE(in_walking_order({&levels[0], &levels[1], &levels[2], &levels[3]}),
                 (std::vector<size_t>{3, 2, 0, 1}));
    }

    void the_narrowest_moment_past_a_foe_is_counted() {
        // A foe goes to and fro across a corridor, eight letters long: it is there at two of them, and
        // whoever comes in then or the letter after dies. Two letters are left, then two are not, and so on.
        Level level = test::tile_level(
            {"#########", "####.####", "####.####", "#.......#", "####.####", "####.####", "#########"}, 1,
            Frame::plan);
        level.walked = Walked::by_cells;
        Layer play = *level.layers.back();
        const auto at = [](int column, int row) { return Vec3(column + 0.5, 6.5 - row, 0); };
        play.items.push_back(Item{{"s"}, {}, false, Element{"start", at(1, 3), 0, {}}, {}});
        play.items.push_back(Item{{"g"}, {}, false, Element{"goal", at(7, 3), 0, {}}, {}});
        play.items.push_back(Item{{"f"},
                                  {},
                                  false,
                                  with_value(with_value(Element{"foe", at(4, 1), 0, {}}, "path",
                                                        std::vector<Vec3>{at(4, 1), at(4, 5)}),
                                             "way", std::string("back_and_forth")),
                                  {}});
        level.layers.back() = Shared<Layer>(std::move(play));
        const auto puzzle = motion::puzzle_of(level);
        QVERIFY(puzzle.has_value());
        const solve::Answer answer = solve::solved(*puzzle);
        QVERIFY2(answer.solvable.value_or(false) && answer.card && answer.card->narrowest,
                 answer.letters.c_str());
        QCOMPARE(*answer.card->narrowest, 2);
        Level late = level;
        Layer timed = *late.layers.back();
        for (const int steps : {answer.steps(), answer.steps() - 1}) {
            Layer layer = timed;
            layer.items.push_back(
                Item{{"t"},
                     {},
                     false,
                     with_value(Element{"time_limit", at(1, 1), 0, {}}, "steps", double(steps)),
                     {}});
            late.layers.back() = Shared<Layer>(std::move(layer));
            const solve::Answer limited_answer = solve::solved(*motion::puzzle_of(late));
            QCOMPARE(limited_answer.solvable.value_or(false), steps == answer.steps());
            QCOMPARE(limited_answer.too_late, steps != answer.steps());
        }
    }
};

RUBBLE_TEST(PopulateTest)
#include "populate_test.moc"
