#include <QtTest/QtTest>

#include "check/check.h"
#include "core/check/fixtures.h"
#include "core/check/random_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::GapFixture;
using test::LevelMaker;
using test::Random;

namespace {

/// A floor and a platform of a height beside it, with a start below and a goal on top.
struct Platform {
    LevelMaker maker;
    ItemId below, top;

    explicit Platform(double height) {
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.box({4, 0, 0}, {4, 4, height});
        below = maker.start({-4, 0, 0});
        top = maker.goal({4, 0, height});
    }
    ClaimResult judged(Claim::Kind kind, const ItemId& from, const ItemId& to) {
        maker.claim(kind, from, to);
        return check_level({}, maker.level()).claims.at(0);
    }
};

/// The level turned by quarters about the origin, item by item.
Level turned_by_quarters(const Level& level, int quarters) {
    Level out = level;
    const auto [c, s] = cos_sin(quarters * 90.0);
    Layer layer = *out.layers[0];
    for (size_t i = 0; i < layer.items.size(); ++i) {
        Item copy = *layer.items[i];
        auto turn = [c = c, s = s](Vec3& p) { p = {p.x * c - p.y * s, p.x * s + p.y * c, p.z}; };
        if (auto* brush = std::get_if<Brush>(&copy.body)) {
            turn(brush->place.at);
            brush->place.turn_deg += quarters * 90.0;
        }
        if (auto* element = std::get_if<Element>(&copy.body)) turn(element->at);
        layer.items.set(i, copy);
    }
    out.layers[0] = layer;
    return out;
}

} // namespace

class ClaimsTest : public QObject {
    Q_OBJECT

private slots:
    void reaches_holds_with_a_run_and_fails_with_a_sentence() {
        const ClaimResult low = Platform(1.0).judged(Claim::Kind::reaches, {"e3"}, {"e4"});
        QVERIFY(low.state == ClaimState::holds && low.witness && low.time_s > 0 && low.reason.empty());
        const ClaimResult high = Platform(3.0).judged(Claim::Kind::reaches, {"e3"}, {"e4"});
        QVERIFY(high.state == ClaimState::fails && !high.witness);
        QVERIFY(in_english(high.reason, Level{}).find("does not get from") != std::string::npos);
    }

    void not_reaches_is_the_other_way_round_and_shows_the_run_that_refutes_it() {
        QVERIFY(Platform(3.0).judged(Claim::Kind::not_reaches, {"e3"}, {"e4"}).state == ClaimState::holds);
        const ClaimResult low = Platform(1.0).judged(Claim::Kind::not_reaches, {"e3"}, {"e4"});
        QVERIFY(low.state == ClaimState::fails && low.witness && !low.reason.empty());
    }

    void not_reaches_fails_where_a_late_jump_helps() {
        // Just beyond the longest gap, within what the grace adds.
        GapFixture gap;
        gap.gap_m = 4.757 + 0.3;
        Level level = gap.level({});
        level.claims[0].kind = Claim::Kind::not_reaches;
        const ClaimResult judged = check_level({}, level).claims.at(0);
        QVERIFY(judged.state == ClaimState::fails);
        QVERIFY(in_english(judged.reason, Level{}).find("late jump") != std::string::npos);
        level = gap.level({{"late_jump_grace_s", 0}});
        level.claims[0].kind = Claim::Kind::not_reaches;
        QVERIFY(check_level({}, level).claims.at(0).state == ClaimState::holds);
    }

    void returns_needs_both_ways() {
        QVERIFY(Platform(1.0).judged(Claim::Kind::returns, {"e3"}, {"e4"}).state == ClaimState::holds);
        // Down is easy, up is not.
        Platform high(3.0);
        QVERIFY(high.judged(Claim::Kind::reaches, high.top, high.below).state == ClaimState::holds);
        Platform again(3.0);
        const ClaimResult judged = again.judged(Claim::Kind::returns, again.top, again.below);
        QVERIFY(judged.state == ClaimState::fails);
        // The sentence names the way that is missing.
        QVERIFY(in_english(judged.reason, Level{}).find("does not get from") != std::string::npos);
    }

    void an_end_that_is_not_there_decides_nothing_and_says_so() {
        Platform platform(1.0);
        const ClaimResult judged = platform.judged(Claim::Kind::reaches, platform.below, {"nobody"});
        QVERIFY(judged.state == ClaimState::undecided);
        QVERIFY(in_english(judged.reason, Level{}).find("nobody") != std::string::npos);
    }

    void a_level_without_a_start_still_judges_claims_between_places() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId a = maker.element("place", {-4, 0, 0}), b = maker.element("place", {4, 0, 0});
        maker.claim(Claim::Kind::reaches, a, b);
        QVERIFY(check_level({}, maker.level()).claims.at(0).state == ClaimState::holds);
    }

    void a_run_is_put_together_of_legs_that_begin_where_their_leaps_do() {
        Random random(8801);
        int legs = 0;
        for (int n = 0; n < test::rounds(10); ++n) {
            const Level level = test::random_level(random);
            CheckOptions options;
            options.explain = false;
            const CheckResult result = check_level({}, level, options);
            for (const Place& place : result.places) {
                if (!place.witness || place.reached != Reached::yes) continue;
                const auto states = motion::replay(*result.world, result.character, place.witness->recording);
                QCOMPARE(int(states.size()), place.witness->recording.steps() + 1);
                QVERIFY(states.back() == place.witness->end);
                int before = -1;
                for (const auto& leg : place.witness->legs) {
                    QVERIFY(leg.first_step > before || (leg.first_step == before && !leg.link));
                    before = leg.first_step;
                    if (!leg.link) continue;
                    ++legs;
                    QVERIFY(glm::length(states[size_t(leg.first_step)].at - leg.link->start) < 1e-6);
                }
                QCOMPARE(place.time_s, place.witness->seconds());
            }
        }
        QVERIFY(legs > 0);
    }

    void each_arrival_begins_in_the_state_in_which_the_one_before_ended() {
        Random random(8802);
        for (int n = 0; n < test::rounds(10); ++n) {
            const Level level = test::random_level(random);
            CheckOptions options;
            options.explain = false;
            const CheckResult result = check_level({}, level, options);
            Character plain = result.character;
            plain.late_jump_grace_s = plain.early_press_s = 0;
            for (const auto& arrival : result.reach->arrivals) {
                if (!arrival || arrival->helped) continue;
                motion::State s = arrival->link
                                      ? result.reach->arrivals[result.reach->index(arrival->from)]->rest.body
                                      : motion::state_at(*result.world, plain, arrival->run.start);
                for (const auto& run : arrival->run.runs)
                    for (int i = 0; i < run.steps; ++i) s = motion::step(*result.world, plain, s, run.input);
                QVERIFY(s == arrival->rest.body);
            }
        }
    }

    void a_level_turned_by_a_quarter_is_judged_alike() {
        Random random(8803);
        int places = 0, otherwise = 0;
        for (int n = 0; n < test::rounds(12); ++n) {
            const Level level = test::random_level(random);
            CheckOptions options;
            options.explain = false;
            const CheckResult plain = check_level({}, level, options);
            const CheckResult turned =
                check_level({}, turned_by_quarters(level, random.whole(1, 3)), options);
            for (size_t i = 0; i < plain.places.size(); ++i)
                ++places, otherwise += plain.places[i].reached != turned.places[i].reached;
        }
        qInfo("%d of %d places judged otherwise", otherwise, places);
        QVERIFY(otherwise * 200 <= places);
    }

    void a_stopped_check_says_that_it_is_not_complete() {
        Random random(8804);
        CheckOptions options;
        options.cancel = Cancel::create();
        options.cancel.request();
        QVERIFY(!check_level({}, test::random_level(random), options).complete);
        // Stopped half-way, when the tint is known.
        options.cancel = Cancel::create();
        options.on_reach = [&](const CheckResult& half) {
            QVERIFY(half.ground && half.reach && half.claims.empty());
            options.cancel.request();
        };
        QVERIFY(!check_level({}, test::random_level(random), options).complete);
    }
};

RUBBLE_TEST(ClaimsTest)
#include "claims_test.moc"
