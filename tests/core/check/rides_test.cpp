#include <QtTest/QtTest>

#include <map>
#include <set>

#include "core/check/goal_of.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "level/element_values.h"
#include "motion/elements.h"
#include "test_program.h"

using namespace rubble;
using check::Reached;
using test::checked;
using test::goal_of;
using test::LevelMaker;
using test::Random;

namespace {

constexpr double k_wide_m = 4, k_high_m = 2.5;

Element sized(const char* kind, const Vec3& at, const Vec3& size) {
    return with_value(Element{kind, at, 0, {}}, "size_m", size);
}
Element lift_between(const Vec3& size, const std::vector<Vec3>& stops) {
    return with_value(sized("lift", stops[0], size), "stops", stops);
}

/// A floor and a ledge too high to jump onto.
LevelMaker high_ledge(double height) {
    LevelMaker maker;
    maker.box({0, 0, -1}, {12, 8, 1});
    maker.box({5, 0, 0}, {2, 8, height}); // its face at x = 4
    maker.start({-4, 0, 0});
    maker.goal({5.2, 0, height});
    return maker;
}

/// Rooms in a row, each with a balcony, parted by doors: in Space with walls, in Side as a corridor.
struct House {
    House(Frame f, int count) : frame(f) {
        maker.box({count * k_wide_m / 2, 0, -1}, {count * k_wide_m + 2, 6, 1});
        for (const double x : {0.0, count * k_wide_m}) maker.box({x, 0, 0}, {0.2, 4.4, 6});
        for (int i = 0; i < count; ++i) {
            if (frame == Frame::space)
                maker.box({middle(i), 1.5, 0}, {2.4, 1, k_high_m});
            else
                maker.box({middle(i) - 0.8, 0, k_high_m - 0.2}, {1.2, 1, 0.2});
        }
        if (frame != Frame::space) { // over the doors nobody jumps from balcony to balcony
            for (int i = 1; i < count; ++i) maker.box({i * k_wide_m, 0, 2.2}, {0.2, 1, 3.8});
            return;
        }
        for (const double y : {-2.1, 2.1})
            maker.box({count * k_wide_m / 2, y, 0}, {count * k_wide_m, 0.2, 6});
        for (int i = 1; i < count; ++i)
            for (const double y : {-1.3, 1.3}) maker.box({i * k_wide_m, y, 0}, {0.2, 1.6, 6});
    }
    static double middle(int room) { return (room + 0.5) * k_wide_m; }
    /// On the floor of a room, or on its balcony.
    Vec3 in(int room, bool high, double aside) const {
        if (frame == Frame::side)
            return {middle(room) + (high ? -0.8 : -1.3) + aside * 0.3, 0, high ? k_high_m : 0};
        return {middle(room) + aside, high ? 1.5 : -1, high ? k_high_m : 0};
    }
    void door(int room, const std::string& key, const std::vector<std::string>& by) {
        Element door = with_value(Element{"door", {(room + 1) * k_wide_m, 0, 0}, 90, {}}, "size_m",
                                  Vec3(1.2, 0.2, frame == Frame::space ? 5.9 : 2.2));
        if (!key.empty()) door = with_value(std::move(door), "key", key);
        if (!by.empty()) door = with_value(std::move(door), "open_by", by);
        maker.element_with(door);
    }
    void ladder(int room) {
        const Vec3 foot =
            frame == Frame::space ? Vec3(middle(room) - 0.6, 1, 0) : Vec3(middle(room) + 0.3, 0, 0);
        maker.element_with(with_value(Element{"ladder", foot, 270, {}}, "height_m", k_high_m));
    }
    void lift(int room) {
        const Vec3 at =
            frame == Frame::space ? Vec3(middle(room) + 0.6, 0.4, 0) : Vec3(middle(room) + 0.4, 0, 0);
        maker.element_with(lift_between({1, 1, 0.2}, {at, at + Vec3(0, 0, k_high_m - 0.2)}));
    }
    Level level() const {
        Level out = maker.level();
        out.frame = frame;
        return out;
    }
    Frame frame;
    LevelMaker maker;
};

} // namespace

/// Ladders, launchers, lifts, decks and foes in the search where one moves freely.
class RidesTest : public QObject {
    Q_OBJECT

private slots:
    void what_is_missing_is_said() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {14, 4, 1});
        for (const double y : {-2.1, 2.1}) maker.box({0, y, 0}, {14, 0.2, 4});
        const ItemId start = maker.start({-5, 0, 0}), goal = maker.goal({5, 0, 0});
        maker.claim(Claim::Kind::reaches, start, goal);
        const ItemId door = maker.element_with(
            with_value(with_value(Element{"door", {2, 0, 0}, 90, {}}, "size_m", Vec3(4, 0.2, 4)), "key",
                       std::string("brass")));
        const ItemId key =
            maker.element_with(with_value(Element{"key", {4, 1, 0}, 0, {}}, "kind", std::string("brass")));
        const check::CheckResult result = check::check_level({}, maker.level());
        QCOMPARE(result.claims.at(0).state, check::ClaimState::fails);
        const auto miss = std::find_if(result.near_misses.begin(), result.near_misses.end(),
                                       [&](const auto& one) { return one.to == goal; });
        QVERIFY(miss != result.near_misses.end());
        QCOMPARE(miss->limit, check::Limit::item);
        const std::string says = check::in_english(miss->says, maker.level());
        for (const std::string& word :
             {goal.value, door.value, std::string("brass"), key.value + " lies behind"})
            QVERIFY2(says.find(word) != std::string::npos, says.c_str());
        // With the key on this side nothing is missing, and the level opens up in two bands.
        LevelMaker with = maker;
        with.element_with(with_value(Element{"key", {-3, 1, 0}, 0, {}}, "kind", std::string("brass")));
        const check::CheckResult now = check::check_level({}, with.level());
        QCOMPARE(now.claims.at(0).state, check::ClaimState::holds);
        QVERIFY(now.near_misses.empty());
        QVERIFY(now.bands);
        QCOMPARE(now.bands->count(), 2);
        const auto band_at = [&](const Vec3& at) {
            return now.bands->of_ledge[size_t(now.ground->ledge_at(at, 0.05))];
        };
        QCOMPARE(band_at({-5, 0, 0}), 0);
        QCOMPARE(band_at({5, 0, 0}), 1);
        QCOMPARE(now.bands->after[1].size(), size_t(2)); // the key, and the door that it opens
    }

    void what_moves_has_room() {
        const auto found = [](const LevelMaker& maker, check::RuleId rule) {
            const check::CheckResult result = checked(maker.level());
            return std::count_if(result.findings.begin(), result.findings.end(),
                                 [&](const check::Finding& one) { return one.rule == rule; });
        };
        for (const double ceiling : {3.9, 4.1}) { // the lift's top comes to 2.2, a courier is 1.8 high
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 8, 1});
            maker.box({3, 0, ceiling}, {3, 3, 0.5});
            maker.start({-4, 0, 0});
            maker.element_with(lift_between({2, 2, 0.2}, {{3, 0, 0}, {3, 0, 2}}));
            QCOMPARE(found(maker, check::RuleId::lift_crushes), ceiling < 4 ? 1 : 0);
        }
        for (const double far : {5.0, 8.0}) { // the ground ends at 6
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 8, 1});
            maker.start({-5, 3, 0});
            maker.element_with(with_value(Element{"foe", {0, -2, 0}, 0, {}}, "path",
                                          std::vector<Vec3>{{0, -2, 0}, {far, -2, 0}}));
            QCOMPARE(found(maker, check::RuleId::foe_in_matter), far > 6 ? 1 : 0);
        }
    }

    void a_ladder_leads_up_and_down() {
        for (const double height : {2.0, 5.0}) {
            for (const bool there : {false, true}) {
                LevelMaker maker = high_ledge(height);
                if (there)
                    maker.element_with(with_value(Element{"ladder", {4, 0, 0}, 180, {}}, "height_m", height));
                QCOMPARE(goal_of(maker.level()), there ? Reached::yes : Reached::no);
            }
        }
        // Down where the fall would kill.
        for (const bool there : {false, true}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 8, 1});
            maker.box({5, 0, 0}, {2, 8, 8});
            maker.start({5.2, 2, 8});
            maker.goal({-4, 0, 0});
            if (there) maker.element_with(with_value(Element{"ladder", {4, 0, 0}, 180, {}}, "height_m", 8.0));
            QCOMPARE(goal_of(maker.level()), there ? Reached::yes : Reached::no);
        }
    }

    void a_ladder_is_left_on_the_way() {
        // Beside the ladder, halfway up and too high to jump onto, a shelf.
        LevelMaker maker;
        maker.box({0, 0, -1}, {12, 12, 1});
        maker.box({5, 0, 0}, {2, 1, 8});
        maker.box({4.5, 2.5, 3}, {3, 2, 0.3});
        maker.start({-4, 0, 0});
        maker.goal({4.5, 2.6, 3.3});
        QCOMPARE(goal_of(maker.level()), Reached::no);
        maker.element_with(with_value(Element{"ladder", {4, 0, 0}, 180, {}}, "height_m", 8.0));
        QCOMPARE(goal_of(maker.level()), Reached::yes);
    }

    void a_lift_is_waited_for_and_ridden() {
        for (const double height : {2.0, 5.0}) {
            for (const char* runs : {"", "always", "called"}) {
                LevelMaker maker = high_ledge(height);
                if (*runs)
                    maker.element_with(
                        with_value(lift_between({2, 2, 0.2}, {{2.95, 0, 0}, {2.95, 0, height - 0.2}}), "runs",
                                   std::string(runs)));
                QCOMPARE(goal_of(maker.level()), *runs ? Reached::yes : Reached::no);
            }
        }
    }

    void a_moving_deck_crosses_a_gap() {
        for (const bool there : {false, true}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {4, 4, 1});
            maker.box({16, 0, -1}, {4, 4, 1});
            maker.start({0, 0, 0});
            maker.goal({16, 0, 0});
            if (there) maker.element_with(lift_between({2, 2, 0.2}, {{3.1, 0, -0.2}, {12.9, 0, -0.2}}));
            QCOMPARE(goal_of(maker.level()), there ? Reached::yes : Reached::no);
        }
    }

    void a_launcher_throws_onto_a_ledge() {
        for (const double speed : {6.0, 14.0}) {
            LevelMaker maker = high_ledge(3);
            maker.element_with(
                with_value(sized("launcher", {2.5, 0, 0}, {1, 1, 0.1}), "velocity_mps", Vec3(0, 0, speed)));
            QCOMPARE(goal_of(maker.level()), speed > 12 ? Reached::yes : Reached::no);
        }
    }

    void a_crumbling_deck_is_a_bridge_and_a_way_down() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {4, 4, 1});
        maker.box({10, 0, -1}, {4, 4, 1});
        maker.box({5, 0, -4}, {5.9, 3.9, 1}); // a cellar that the decks cover
        for (const double x : {2.0, 8.0}) maker.box({x, 0, -4}, {0.1, 4, 3.8});
        for (const double y : {-2.0, 2.0}) maker.box({5, y, -4}, {6, 0.1, 4});
        maker.element_with(with_value(sized("deck", {5, 0, -0.2}, {6, 3.9, 0.2}), "crumbles_s", 1.5));
        maker.start({0, 0, 0});
        maker.goal({10, 0, 0});
        const ItemId cellar = maker.element("place", {5, 0, -3});
        const Level level = maker.level();
        const check::CheckResult result = checked(level);
        QCOMPARE(goal_of(result, level), Reached::yes);
        for (const check::Place& place : result.places)
            if (place.item == cellar) QCOMPARE(place.reached, Reached::yes);
    }

    void a_run_gets_past_a_foe() {
        for (const double wide : {1.0, 6.0}) {
            LevelMaker maker; // a hall with a passage as wide as this, before which the foe goes to and fro
            maker.box({0, 0, -1}, {20, 8, 1});
            for (const double side : {-1.0, 1.0}) {
                maker.box({0, side * 4.1, 0}, {20, 0.2, 4});
                maker.box({0, side * (wide / 2 + (8 - wide) / 4), 0}, {1, (8 - wide) / 2, 4});
            }
            for (const double x : {-10.0, 10.0}) maker.box({x, 0, 0}, {0.2, 8, 4});
            maker.start({-8, 0, 0});
            maker.goal({8, 0, 0});
            Element foe = with_value(Element{"foe", {2, -3, 0}, 0, {}}, "path",
                                     std::vector<Vec3>{{2, -3, 0}, {2, 3, 0}});
            maker.element_with(with_value(std::move(foe), "way", std::string("back_and_forth")));
            QCOMPARE(goal_of(maker.level()), Reached::yes);
            // One that stands in a passage that it fills is never passed.
            maker.element_with(sized("foe", {0, 0, 0}, {1, 8, 1.9}));
            QVERIFY(goal_of(maker.level()) != Reached::yes);
        }
    }

    void a_switch_that_is_held_opens_nothing_far_away() {
        for (const double x : {-3.0, 1.25, 1.5}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {14, 4, 1});
            for (const double y : {-2.1, 2.1}) maker.box({0, y, 0}, {14, 0.2, 4});
            maker.start({-5, 0, 0});
            maker.goal({5, 0, 0});
            const ItemId press = maker.element_with(
                with_value(Element{"switch", {x, 0, 0}, 0, {}}, "mode", std::string("held")));
            Element door = with_value(Element{"door", {2, 0, 0}, 90, {}}, "size_m", Vec3(4, 0.2, 4));
            maker.element_with(with_value(std::move(door), "open_by", std::vector<std::string>{press.value}));
            // Whoever stands on it and in the door at once is through.
            QCOMPARE(goal_of(maker.level()), x > 1.4 ? Reached::yes : Reached::no);
        }
    }

    /// Random houses, as by trying every order of taking, pressing and opening.
    void agrees_with_every_order_in_houses() {
        Random random(1802);
        int yes = 0, no = 0;
        for (int round = 0; round < std::max(8, test::rounds(24)); ++round) {
            const int count = random.whole(2, 4);
            House house(round % 2 ? Frame::side : Frame::space, count);
            const int start = random.whole(0, count - 1);
            int goal = random.whole(0, 2 * count - 1); // by rooms: floor, balcony
            if (goal == 2 * start) goal = 2 * start + 1;
            house.maker.start(house.in(start, false, 0));
            std::vector<int> up(size_t(count), 0); // 0 nothing, 1 a ladder, 2 a lift
            std::map<int, std::string> key_at;     // by places
            std::map<int, int> press_at;           // which door
            std::vector<std::string> doors(size_t(count), "");
            std::vector<bool> pressed_open(size_t(count), false);
            for (int i = 0; i < count; ++i) {
                up[size_t(i)] = random.whole(0, 2);
                if (up[size_t(i)] == 1) house.ladder(i);
                if (up[size_t(i)] == 2) house.lift(i);
                if (random.chance(0.6)) {
                    const int place = 2 * i + random.whole(0, 1);
                    key_at[place] = random.chance(0.5) ? "brass" : "zinc";
                    house.maker.element_with(with_value(Element{"key", house.in(i, place % 2, 0.9), 0, {}},
                                                        "kind", key_at[place]));
                }
            }
            for (int i = 0; i + 1 < count; ++i) {
                const int kind = random.whole(0, 3);
                if (kind == 0) continue; // no door
                if (kind < 3) {
                    doors[size_t(i)] = kind == 1 ? "brass" : "zinc";
                    house.door(i, doors[size_t(i)], {});
                    continue;
                }
                const int place = random.whole(0, 2 * count - 1);
                pressed_open[size_t(i)] = true;
                if (press_at.contains(place)) {
                    house.door(i, "", {"nobody"});
                    continue;
                }
                press_at[place] = i;
                const ItemId press =
                    house.maker.element_with(Element{"switch", house.in(place / 2, place % 2, -0.9), 0, {}});
                house.door(i, "", {press.value});
            }
            house.maker.goal(house.in(goal / 2, goal % 2, 0));
            using State = std::tuple<int, std::set<int>, std::set<int>>; // place, taken, opened
            std::set<State> seen;
            std::vector<State> open{{2 * start, {}, {}}};
            bool reached = false;
            while (!open.empty()) {
                auto [place, taken, opened] = open.back();
                open.pop_back();
                if (!seen.insert({place, taken, opened}).second) continue;
                reached |= place == goal;
                const int room = place / 2;
                if (key_at.contains(place) && !taken.contains(place)) {
                    auto more = taken;
                    more.insert(place);
                    open.push_back({place, more, opened});
                }
                if (press_at.contains(place)) {
                    auto more = opened;
                    more.insert(press_at.at(place));
                    open.push_back({place, taken, more});
                }
                if (place % 2 || up[size_t(room)]) open.push_back({place ^ 1, taken, opened});
                for (const int way : {-1, 1}) {
                    const int next = room + way, door = std::min(room, next);
                    if (next < 0 || next >= count || place % 2) continue;
                    auto then = opened;
                    const std::string& key = doors[size_t(door)];
                    if (pressed_open[size_t(door)] && !opened.contains(door)) continue;
                    if (!key.empty() && !opened.contains(door)) {
                        int held = 0;
                        for (const int t : taken) held += key_at.at(t) == key;
                        for (const int d : opened) held -= doors[size_t(d)] == key;
                        if (held <= 0) continue;
                        then.insert(door);
                    }
                    open.push_back({2 * next, taken, then});
                }
            }
            QString told = QString("round %1, from floor %2 to place %3, ").arg(round).arg(start).arg(goal);
            for (int i = 0; i < count; ++i)
                told += QString(" up %1 door %2%3")
                            .arg(up[size_t(i)])
                            .arg(QString::fromStdString(doors[size_t(i)]))
                            .arg(pressed_open[size_t(i)] ? "pressed" : "");
            for (const auto& [place, key] : key_at)
                told += QString(", %1 key at %2").arg(QString::fromStdString(key)).arg(place);
            for (const auto& [place, door] : press_at)
                told += QString(", switch of %1 at %2").arg(door).arg(place);
            const Reached found = goal_of(house.level());
            QVERIFY2(found == (reached ? Reached::yes : Reached::no),
                     qPrintable(told + QString(": %1 for %2").arg(int(found)).arg(reached)));
            (reached ? yes : no) += 1;
        }
        QVERIFY(yes > 1 && no > 1);
    }

    /// Players who go anywhere come to stand hardly anywhere that the check denies.
    void blind_players_find_hardly_more() {
        Random random(1803);
        int stood = 0, denied = 0;
        for (int round = 0; round < std::max(4, test::rounds(12)); ++round) {
            const int count = random.whole(2, 3);
            House house(round % 2 ? Frame::side : Frame::space, count);
            house.maker.start(house.in(0, false, 0));
            for (int i = 0; i < count; ++i) {
                const int kind = random.whole(0, 2);
                if (kind == 1) house.ladder(i);
                if (kind == 2) house.lift(i);
                if (random.chance(0.5)) house.door(i, "brass", {});
                if (random.chance(0.7))
                    house.maker.element_with(
                        with_value(Element{"key", house.in(i, random.chance(0.5), 0.9), 0, {}}, "kind",
                                   std::string("brass")));
            }
            const Level level = house.level();
            const check::CheckResult result = checked(level);
            QVERIFY2(result.reach->complete, qPrintable(QString("round %1").arg(round)));
            const int before = denied;
            for (int player = 0; player < 4; ++player) {
                motion::PlayState state =
                    motion::begun_at(*result.world, result.character, house.in(0, false, 0));
                motion::Input input;
                for (int step = 0; step < 120 * 60 && !state.body.dead; ++step) {
                    if (step % 40 == 0) {
                        const auto [x, y] = cos_sin(random.whole(0, 7) * 45.0);
                        input = {random.chance(0.15) ? Vec2(0) : Vec2(x, y), random.chance(0.3), false,
                                 false};
                    }
                    state = motion::step(*result.world, result.character, state, input);
                    if (!state.body.standing || step % 10 != 0) continue;
                    const int ledge = result.ground->ledge_at(state.body.at, 0.05);
                    if (ledge < 0) continue;
                    ++stood;
                    denied += !result.reach->tinted(ledge);
                    if (denied == before + 1 && !result.reach->tinted(ledge))
                        qInfo("round %d: first at %.2f %.2f %.2f", round, state.body.at.x, state.body.at.y,
                              state.body.at.z);
                }
            }
        }
        qInfo("stood %d times, %d of them where the check says no", stood, denied);
        QVERIFY(stood > 1000);
        QVERIFY(denied * 100 <= stood);
    }
};

RUBBLE_TEST(RidesTest)
#include "rides_test.moc"
