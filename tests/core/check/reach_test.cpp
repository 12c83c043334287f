#include <QtTest/QtTest>

#include "base/parallel.h"
#include "check/check.h"
#include "check/walk.h"
#include "core/check/random_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::Random;

namespace {

/// What a blind launcher reaches: from places on a quarter-metre grid of what it has, a random `share` of
/// them, by running off or jumping in 16 directions at three speeds, with `step` alone. Returns where it
/// stood that the check denies.
struct Denied {
    int launches = 0, landings = 0, denied = 0;
    int on_steep = 0;   ///< of the denied: on the ridge of a steep column, or wedged
    int off_ground = 0; ///< of the others: where no fragment lies
    std::vector<Vec3> places;
};

Denied launch_blindly(const CheckResult& result, const Character& c, double share, Random& random) {
    constexpr double spacing = 0.25;
    Denied out;
    const Ground& ground = *result.ground;
    for (const Fragment& fragment : ground.fragments) {
        if (!result.reach->reached(fragment.ledge) || fragment.low) continue;
        const Box2 box = fragment.box;
        for (double x = std::ceil(box.low.x / spacing) * spacing; x <= box.high.x; x += spacing)
            for (double y = std::ceil(box.low.y / spacing) * spacing; y <= box.high.y; y += spacing) {
                if (!geometry::contains(fragment.area, {x, y}) || !random.chance(share)) continue;
                const int index = int(&fragment - ground.fragments.data());
                const motion::State from =
                    motion::state_at(*result.world, c, {x, y, ground.feet_at(index, {x, y})});
                if (!from.standing) continue;
                for (int heading = 0; heading < 16; ++heading)
                    for (double speed : {0.33, 0.67, 1.0}) {
                        const auto [dx, dy] = cos_sin(heading * 22.5);
                        motion::State s = from;
                        ++out.launches;
                        bool left = false;
                        for (int i = 0; i < 240; ++i) {
                            s = motion::step(*result.world, c, s,
                                             {Vec2(dx, dy) * speed, i >= 12 && i < 60, false, false});
                            left |= !s.standing;
                            if (s.dead || (left && s.standing)) break;
                        }
                        // Walks on after landing for half a second, then stands.
                        for (int i = 0; i < 60 && !s.dead; ++i)
                            s = motion::step(*result.world, c, s, {i < 40 ? Vec2(dx, dy) * speed : Vec2(0)});
                        if (s.dead || !s.standing) continue;
                        ++out.landings;
                        const int ledge = ground.ledge_at(s.at, 0.05);
                        if (result.reach->tinted(ledge)) continue;
                        ++out.denied;
                        const auto support =
                            motion::support_below(*result.world, motion::body_of(c, s), 0.01, 0.01);
                        const bool steep =
                            !support ||
                            !motion::is_ground(c, result.world->columns()[size_t(support->column)]);
                        out.on_steep += steep;
                        out.off_ground += !steep && ledge < 0;
                        if (out.places.size() < 20) out.places.push_back(s.at);
                    }
            }
    }
    return out;
}

} // namespace

class ReachTest : public QObject {
    Q_OBJECT

    void replay_what_is_reached(uint64_t seed, int rounds, bool round, double half = 9) {
        Random random(seed);
        int reached = 0, undecided = 0, asked = 0;
        for (int n = 0; n < test::rounds(rounds); ++n) {
            const Level level = test::random_level(random, round, half);
            CheckOptions options;
            options.explain = false;
            const CheckResult result = check_level({}, level, options);
            const Character c = character_of({}, level);
            for (const Place& place : result.places) {
                ++asked;
                undecided += place.reached == Reached::undecided;
                if (place.reached != Reached::yes) continue;
                ++reached;
                QVERIFY(place.witness);
                const auto states = motion::replay(*result.world, c, place.witness->recording);
                QVERIFY(
                    has_thing(*result.world, states.back(), c, find_item(level, place.item)->element()->at));
                for (const auto& state : states)
                    QVERIFY(motion::overlap_m(*result.world, motion::body_of(c, state)) < 1e-3);
            }
        }
        qInfo("%d of %d places reached, %d undecided", reached, asked, undecided);
        QVERIFY(reached > 0);
        // One more than the share: few rounds have few places.
        QVERIFY2((undecided - 1) * 100 <= asked, "more than one, and one in a hundred, undecided");
    }

private slots:
    void what_is_reached_replays_without_touching_matter() { replay_what_is_reached(4301, 100, false); }
    void so_it_does_on_round_shapes() { replay_what_is_reached(4305, 40, true); }
    /// Leaps all over it set out from stations.
    void so_it_does_on_a_wide_floor() { replay_what_is_reached(4306, 20, false, 45); }

    void every_reached_ledge_has_a_witness() {
        Random random(4302);
        int ledges = 0, failed = 0;
        for (int n = 0; n < test::rounds(150); ++n) {
            const Level level = test::random_level(random);
            CheckOptions options;
            options.explain = false;
            const CheckResult result = check_level({}, level, options);
            const Character c = character_of({}, level);
            for (int ledge = 0; ledge < int(result.ground->ledges.size()); ++ledge) {
                if (!result.reach->reached(ledge)) continue;
                const int f = result.ground->ledges[size_t(ledge)].fragments[0];
                const Spot spot{f, geometry::middle_of(result.ground->fragments[size_t(f)].area), ledge};
                ++ledges;
                failed += !make_witness(*result.ground, *result.world, c, *result.reach, spot);
            }
        }
        qInfo("%d ledges reached, %d without a witness", ledges, failed);
        QVERIFY2(failed * 500 <= ledges + 500, "more than one, and one in five hundred, without a witness");
    }

    void a_blind_launcher_finds_hardly_more() {
        // Levels and places have numbers of their own: what was asked of one level says nothing of the next.
        Random random(4303), places(4306);
        const int skipped = qEnvironmentVariableIntValue("RUBBLE_SKIP"); // levels asked another time
        const double share = qEnvironmentVariableIsSet("RUBBLE_SHARE")
                                 ? qEnvironmentVariable("RUBBLE_SHARE").toDouble()
                                 : 1.0 / 64; // all places of a level take half a minute
        Denied all;
        for (int n = 0; n < skipped + test::rounds(6); ++n) {
            const Level level = test::random_level(random);
            if (n < skipped) continue;
            CheckOptions options;
            options.explain = false;
            const CheckResult result = check_level({}, level, options);
            const Denied denied = launch_blindly(result, character_of({}, level), share, places);
            all.launches += denied.launches, all.landings += denied.landings, all.denied += denied.denied;
            all.on_steep += denied.on_steep, all.off_ground += denied.off_ground;
            if (share == 1)
                qInfo("level %d: %d launches, %d landings, %d denied: %d on steep columns, %d off the ground",
                      n, denied.launches, denied.landings, denied.denied, denied.on_steep, denied.off_ground);
            for (const Vec3& p : denied.places)
                if (all.places.size() < 12) {
                    all.places.push_back(p);
                    qInfo("level %d: stood at %.2f %.2f %.2f, ledge %d", n, p.x, p.y, p.z,
                          result.ground->ledge_at(p, 0.05));
                }
        }
        qInfo(
            "%d launches, %d landings, %d denied: %d on steep columns, %d off the ground's fragments, %d on "
            "ledges that are not reached",
            all.launches, all.landings, all.denied, all.on_steep, all.off_ground,
            all.denied - all.on_steep - all.off_ground);
        QVERIFY2(all.denied * 100 <= all.landings,
                 "more than one landing in a hundred where the check says no");
    }

    void the_same_level_gives_the_same_answer() {
        Random random(4304);
        const Level level = test::random_level(random);
        const CheckResult a = check_level({}, level), b = check_level({}, level);
        for (size_t i = 0; i < a.places.size(); ++i) {
            QCOMPARE(a.places[i].reached, b.places[i].reached);
            QCOMPARE(a.places[i].witness.has_value(), b.places[i].witness.has_value());
            if (a.places[i].witness)
                QVERIFY(a.places[i].witness->recording == b.places[i].witness->recording);
        }
    }
};

RUBBLE_TEST(ReachTest)
#include "reach_test.moc"
