#include <QtTest/QtTest>

#include <algorithm>
#include <functional>
#include <map>
#include <set>

#include "core/check/goal_of.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "level/element_values.h"
#include "test_program.h"

using namespace rubble;
using test::checked;
using test::goal_of;
using test::LevelMaker;
using test::Random;

namespace {

constexpr double k_room_m = 4;

/// Rooms in a row, parted by walls with a passage in each, from the left; room 0 begins at x = 0.
struct Rooms {
    explicit Rooms(int count) {
        maker.box({count * k_room_m / 2, 0, -1}, {count * k_room_m + 2, 6, 1});
        for (const double y : {-2.1, 2.1})
            maker.box({count * k_room_m / 2, y, 0}, {count * k_room_m, 0.2, 3});
        for (const double x : {0.0, count * k_room_m}) maker.box({x, 0, 0}, {0.2, 4.4, 3});
        for (int i = 1; i < count; ++i)
            for (const double y : {-1.3, 1.3}) maker.box({i * k_room_m, y, 0}, {0.2, 1.6, 3});
    }
    static Vec3 in(int room, double aside = 0) { return {(room + 0.5) * k_room_m, aside, 0}; }
    ItemId put(Element element) { return maker.element_with(std::move(element)); }
    /// In the passage between a room and the next.
    Element door(const char* kind, int room) const {
        return with_value(Element{kind, {(room + 1) * k_room_m, 0, 0}, 90, {}}, "size_m",
                          Vec3(1.2, 0.2, 2.9));
    }
    LevelMaker maker;
};

Element thing(const char* kind, const Vec3& at, const char* key, const std::string& name) {
    return with_value(Element{kind, at, 0, {}}, key, name);
}

} // namespace

/// Doors, keys, gates, switches and hazards where one moves freely.
class PlayTest : public QObject {
    Q_OBJECT

private slots:
    void a_door_opens_with_its_key() {
        for (const int key_room : {-1, 0, 1}) {
            Rooms rooms(2);
            rooms.maker.start(Rooms::in(0));
            rooms.maker.goal(Rooms::in(1));
            rooms.put(with_value(rooms.door("door", 0), "key", std::string("brass")));
            if (key_room >= 0) rooms.put(thing("key", Rooms::in(key_room, 1.2), "kind", "brass"));
            QCOMPARE(goal_of(rooms.maker.level()), key_room == 0 ? check::Reached::yes : check::Reached::no);
        }
    }

    void a_key_that_is_used_up_goes_where_it_helps() {
        // Left of the start a room with nothing in it, behind a door of the same kind.
        for (const bool kept : {false, true}) {
            Rooms rooms(4);
            rooms.maker.start(Rooms::in(1));
            rooms.maker.goal(Rooms::in(3));
            rooms.put(with_value(thing("key", Rooms::in(1, 1.2), "kind", "brass"), "kept", kept));
            for (const int door : {0, 1})
                rooms.put(with_value(rooms.door("door", door), "key", std::string("brass")));
            QCOMPARE(goal_of(rooms.maker.level()), check::Reached::yes);
            rooms.put(with_value(rooms.door("door", 2), "key", std::string("brass")));
            QCOMPARE(goal_of(rooms.maker.level()), kept ? check::Reached::yes : check::Reached::no);
        }
    }

    void a_gate_counts_and_a_switch_opens() {
        for (const int pearls : {1, 2}) {
            Rooms rooms(3);
            rooms.maker.start(Rooms::in(0));
            rooms.maker.goal(Rooms::in(2));
            rooms.put(with_value(rooms.door("gate", 0), "count", 2.0));
            const ItemId press = rooms.put(Element{"switch", Rooms::in(1, 1.2), 0, {}});
            rooms.put(with_value(rooms.door("door", 1), "open_by", std::vector<std::string>{press.value}));
            for (int i = 0; i < pearls; ++i)
                rooms.put(thing("pickup", Rooms::in(0, i == 0 ? 1.2 : -1.2), "kind", "pearl"));
            QCOMPARE(goal_of(rooms.maker.level()), pearls == 2 ? check::Reached::yes : check::Reached::no);
        }
        // A door that is open at first is closed by the same switch.
        Rooms rooms(2);
        rooms.maker.start(Rooms::in(0));
        rooms.maker.goal(Rooms::in(1));
        rooms.put(with_value(rooms.door("door", 0), "open", true));
        QCOMPARE(goal_of(rooms.maker.level()), check::Reached::yes);
    }

    void an_item_makes_immune() {
        for (const bool there : {false, true}) {
            Rooms rooms(2);
            rooms.maker.start(Rooms::in(0));
            rooms.maker.goal(Rooms::in(1));
            Element water{"hazard", {k_room_m, 0, 0}, 0, {}};
            water = with_value(with_value(std::move(water), "without", std::string("oilskins")), "size_m",
                               Vec3(1, 1.6, 2.9));
            rooms.put(water);
            if (there) rooms.put(thing("item", Rooms::in(0, 1.2), "gives", "oilskins"));
            QCOMPARE(goal_of(rooms.maker.level()), there ? check::Reached::yes : check::Reached::no);
        }
    }

    /// Each rule with a level that gives none, and the least change that does.
    void rules_of_elements_tell_what_is_amiss() {
        const auto found = [](const Level& level, check::RuleId rule) {
            const check::CheckResult result = checked(level);
            return std::count_if(result.findings.begin(), result.findings.end(),
                                 [&](const check::Finding& finding) { return finding.rule == rule; });
        };
        const auto with = [&](const std::function<void(Rooms&)>& more) {
            Rooms rooms(2);
            rooms.maker.start(Rooms::in(0));
            rooms.maker.goal(Rooms::in(1));
            more(rooms);
            return rooms.maker.level();
        };
        const auto locked = [](const Rooms& rooms) {
            return with_value(rooms.door("door", 0), "key", std::string("brass"));
        };
        using enum check::RuleId;
        const Level sound = with([&](Rooms& rooms) {
            rooms.put(locked(rooms));
            rooms.put(thing("key", Rooms::in(0, 1.2), "kind", "brass"));
        });
        for (const auto rule :
             {reference_missing, door_never_opens, gate_short, switch_unheard, key_behind_door})
            QCOMPARE(found(sound, rule), 0);
        QCOMPARE(found(with([&](Rooms& rooms) { rooms.put(locked(rooms)); }), door_never_opens), 1);
        QCOMPARE(found(with([](Rooms& rooms) { rooms.put(rooms.door("door", 0)); }), door_never_opens), 1);
        const auto listening = [&](const std::string& to) {
            return with([&](Rooms& rooms) {
                const ItemId press = rooms.put(Element{"switch", Rooms::in(0, 1.2), 0, {}});
                rooms.put(with_value(rooms.door("door", 0), "open_by",
                                     std::vector<std::string>{to.empty() ? press.value : to}));
            });
        };
        QCOMPARE(found(listening(""), reference_missing) + found(listening(""), switch_unheard), 0);
        QCOMPARE(found(listening("gone"), reference_missing), 1);
        QCOMPARE(found(listening("gone"), switch_unheard), 1);
        const auto counting = [&](double count) {
            return with([&](Rooms& rooms) {
                rooms.put(with_value(rooms.door("gate", 0), "count", count));
                rooms.put(thing("pickup", Rooms::in(0, 1.2), "kind", "pearl"));
            });
        };
        QCOMPARE(found(counting(1), gate_short), 0);
        QCOMPARE(found(counting(2), gate_short), 1);
        QCOMPARE(found(with([&](Rooms& rooms) {
                           rooms.put(locked(rooms));
                           rooms.put(thing("key", Rooms::in(1, 1.2), "kind", "brass"));
                       }),
                       key_behind_door),
                 1);
        // 3 m from the start is far enough for a foe.
        const auto foe_at = [&](double apart) {
            return with([&](Rooms& rooms) {
                rooms.put(Element{"foe", Rooms::in(0) + Vec3(apart, 0, 0), 0, {}});
            });
        };
        QCOMPARE(found(foe_at(3), foe_near_start), 0);
        QCOMPARE(found(foe_at(2.99), foe_near_start), 1);
    }

    void crates_and_foes_by_cells_have_room() {
        const auto found = [](const std::vector<std::string>& rows, Vec3 crate, Vec3 foe_to,
                              check::RuleId rule) {
            Level level = test::tile_level(rows, 1, Frame::plan);
            level.walked = Walked::by_cells;
            level = test::with_element(test::with_element(level, "s", "start", {1.5, 1.5, 0}), "c", "crate",
                                       crate);
            Layer play = *level.layers.back();
            Element foe{"foe", {7.5, 1.5, 0}, 0, {}};
            foe = with_value(std::move(foe), "path", std::vector<Vec3>{foe.at, foe_to});
            play.items.push_back(Item{{"f"}, {}, false, std::move(foe), {}});
            level.layers.back() = std::move(play);
            const check::CheckResult result = checked(level);
            return std::count_if(result.findings.begin(), result.findings.end(),
                                 [&](const check::Finding& finding) { return finding.rule == rule; });
        };
        const std::vector<std::string> rows{"##########", "#....#...#", "#........#", "##########"};
        // The crate in the corner stays; with floor to both sides it goes.
        QCOMPARE(found(rows, {4.5, 2.5, 0}, {8.5, 1.5, 0}, check::RuleId::crate_stuck), 1);
        QCOMPARE(found(rows, {3.5, 2.5, 0}, {8.5, 1.5, 0}, check::RuleId::crate_stuck), 0);
        QCOMPARE(found(rows, {3.5, 2.5, 0}, {8.5, 1.5, 0}, check::RuleId::foe_in_matter), 0);
        QCOMPARE(found(rows, {3.5, 2.5, 0}, {9.5, 1.5, 0}, check::RuleId::foe_in_matter), 1);
    }

    void claims_about_play_are_judged() {
        Rooms rooms(3);
        const ItemId start = rooms.maker.start(Rooms::in(0)), goal = rooms.maker.goal(Rooms::in(2));
        const ItemId key = rooms.put(thing("key", Rooms::in(0, 1.2), "kind", "brass"));
        const ItemId pearl = rooms.put(thing("pickup", Rooms::in(1, 1.2), "kind", "pearl"));
        rooms.put(with_value(rooms.door("door", 0), "key", std::string("brass")));
        Level level = rooms.maker.level();
        const auto claim = [&](Claim::Kind kind, const ItemId& item) {
            Claim one;
            one.id = {"c" + std::to_string(level.claims.size())};
            one.kind = kind, one.from = start, one.to = goal, one.item = item;
            one.element = "pickup", one.count = 1;
            level.claims.push_back(one);
        };
        claim(Claim::Kind::needs, key);
        claim(Claim::Kind::needs, pearl);
        claim(Claim::Kind::order, key);
        claim(Claim::Kind::all_pickups, {});
        claim(Claim::Kind::at_most, {});
        claim(Claim::Kind::needs, {"nothing"});
        const auto states = [&] {
            std::string out;
            for (const auto& one : checked(level).claims)
                out += one.state == check::ClaimState::holds   ? 'h'
                       : one.state == check::ClaimState::fails ? 'f'
                                                               : 'u';
            return out;
        };
        QCOMPARE(states(), std::string("hfhhhu"));
        // A second pearl, where nobody gets.
        Layer more = *level.layers[0];
        more.items.push_back(Item{{"far"}, {}, false, thing("pickup", {1, 1, 9}, "kind", "pearl"), {}});
        level.layers[0] = more;
        QCOMPARE(states(), std::string("hfhffu"));
    }

    /// Rooms in a row with keys and doors of two kinds: as by trying every order of taking and opening.
    void agrees_with_every_order_of_opening() {
        Random random(1718);
        int yes = 0, no = 0;
        for (int round = 0; round < std::max(12, test::rounds(40)); ++round) {
            const int count = random.whole(3, 5), start = random.whole(0, count - 1);
            const int goal = (start + random.whole(1, count - 1)) % count;
            Rooms rooms(count);
            rooms.maker.start(Rooms::in(start));
            rooms.maker.goal(Rooms::in(goal, -0.9));
            std::vector<int> doors, keys; // the kind of each passage (-1 none), by rooms: which key, or -1
            for (int i = 0; i + 1 < count; ++i) {
                doors.push_back(random.whole(-1, 1));
                if (doors.back() >= 0)
                    rooms.put(with_value(rooms.door("door", i), "key",
                                         std::string(doors.back() == 0 ? "brass" : "zinc")));
            }
            for (int i = 0; i < count; ++i) {
                keys.push_back(random.whole(-1, 1));
                if (keys.back() >= 0)
                    rooms.put(thing("key", Rooms::in(i, 1.2), "kind", keys.back() == 0 ? "brass" : "zinc"));
            }
            // Every order: what is taken, what is opened, and where one is.
            using State = std::tuple<int, std::set<int>, std::set<int>>;
            std::set<State> seen;
            std::vector<State> open{{start, {}, {}}};
            bool reached = false;
            while (!open.empty()) {
                auto [room, taken, opened] = open.back();
                open.pop_back();
                if (!seen.insert({room, taken, opened}).second) continue;
                reached |= room == goal;
                if (keys[size_t(room)] >= 0) {
                    auto more = taken;
                    more.insert(room);
                    open.push_back({room, more, opened});
                }
                for (const int way : {-1, 1}) {
                    const int next = room + way, door = std::min(room, next);
                    if (next < 0 || next >= count) continue;
                    const int kind = doors[size_t(door)];
                    auto then = opened;
                    if (kind >= 0 && !opened.contains(door)) {
                        int held = 0;
                        for (const int t : taken) held += keys[size_t(t)] == kind;
                        for (const int d : opened) held -= doors[size_t(d)] == kind;
                        if (held <= 0) continue;
                        then.insert(door);
                    }
                    open.push_back({next, taken, then});
                }
            }
            const check::Reached found = goal_of(rooms.maker.level());
            QVERIFY2(found == (reached ? check::Reached::yes : check::Reached::no),
                     qPrintable(QString("round %1: %2").arg(round).arg(int(found))));
            (reached ? yes : no) += 1;
        }
        QVERIFY(yes > 1 && no > 1);
    }
};

RUBBLE_TEST(PlayTest)
#include "play_test.moc"
