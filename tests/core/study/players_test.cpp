#include <QtTest/QtTest>

#include <cmath>

#include "check/flight.h"
#include "check/span_facts.h"
#include "core/check/random_level.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "io/report.h"
#include "io/study_report.h"
#include "level/order.h"
#include "test_program.h"

using namespace rubble;
using check::SpanFacts;
using test::LevelMaker;

namespace {

/// Two platforms with a gap along x between them, and a floor far below or none.
struct Gap {
    double gap_m = 3, rise_m = 0, depth_m = 8, width_m = 8;
    double pit_m = 0; ///< 0: no ground
    double late_s = 0;

    LevelMaker maker() const {
        LevelMaker maker;
        maker.box({-5, 0, -1}, {10, 8, 1});
        maker.box({gap_m + depth_m / 2, 0, rise_m - 1}, {depth_m, width_m, 1});
        if (pit_m > 0) maker.box({5, 0, -pit_m - 1}, {60, 30, 1});
        maker.start({-8, 0, 0});
        maker.goal({gap_m + depth_m - 0.4, 0, rise_m});
        maker.change("late_jump_grace_s", late_s);
        maker.change("early_press_s", 0);
        return maker;
    }
};

check::CheckResult with_spans(const Level& level) {
    check::CheckOptions options;
    options.explain = options.mends = false, options.all_spans = true;
    return check::check_level({}, level, options);
}

/// The way across, as a rule a jump, and what is known of it.
std::optional<SpanFacts> facts_of_gap(const Level& level, bool any_kind = false) {
    const check::CheckResult result = with_spans(level);
    const check::LinkGraph graph(*result.ground, result.character, result.reach->links);
    for (const check::Span& span : result.spans)
        if ((any_kind || span.kind == check::LinkKind::jump) && span.from.x < 0.5 && span.to.x > 0.5)
            return facts_of(*result.ground, *result.world, result.character, graph, *span.link, span);
    return {};
}

double normal_share(double half, double deviation) { return std::erf(half / deviation / std::sqrt(2)); }

ItemId first(const Level& level, Role role) { return elements_of(level, role).at(0)->id; }

} // namespace

/// What is known of a span beyond its measures, and simulated players, against closed forms.
class PlayersTest : public QObject {
    Q_OBJECT

private slots:
    void the_press_may_be_off_by_what_is_left_of_the_gap() {
        test::Random random(2101);
        const Character c;
        for (int round = 0; round < test::rounds(20); ++round) {
            Gap gap;
            gap.rise_m = random.between(-1, 0.8);
            const double longest = *check::longest_gap(c, gap.rise_m);
            gap.gap_m = random.between(longest - 2.5, longest - 0.3);
            const auto facts = facts_of_gap(gap.maker().level());
            QVERIFY(facts && facts->forgiven_ms);
            const double wanted = (longest - gap.gap_m) / c.run_speed_mps * 1000;
            QVERIFY2(std::abs(*facts->forgiven_ms - wanted) < 2.1 * motion::step_s * 1000,
                     qPrintable(QString("gap %1 rise %2: %3 ms, wanted %4")
                                    .arg(gap.gap_m)
                                    .arg(gap.rise_m)
                                    .arg(*facts->forgiven_ms)
                                    .arg(wanted)));
        }
    }

    void a_late_jump_is_forgiven_too() {
        Gap gap;
        const double before = *facts_of_gap(gap.maker().level())->forgiven_ms;
        gap.late_s = 0.1;
        const double with = *facts_of_gap(gap.maker().level())->forgiven_ms;
        QVERIFY2(std::abs(with - before - 100) < 3 * motion::step_s * 1000,
                 qPrintable(QString::number(with)));
    }

    void the_direction_may_be_off_by_how_wide_the_landing_is() {
        for (const double width : {0.5, 1.0, 2.0}) {
            Gap gap;
            gap.gap_m = 3.5, gap.width_m = width;
            const Level level = gap.maker().level();
            const auto facts = facts_of_gap(level);
            QVERIFY(facts);
            // Off to the side by the landing's half and its own radius, over run-up and gap.
            const check::CheckResult result = with_spans(level);
            double way = 0;
            for (const check::Span& span : result.spans)
                if (span.kind == check::LinkKind::jump && span.to.x > 0.5) {
                    const auto approach =
                        approach_of(*result.ground, *result.world, result.character, *span.link);
                    QVERIFY(approach && !approach->recorded);
                    way = gap.gap_m - approach->begin.x;
                }
            const double wanted = 2 * std::atan((width / 2 + 0.3) / way) * 180 / M_PI;
            QVERIFY2(std::abs(facts->forgiven_deg - wanted) < 0.15 * wanted,
                     qPrintable(
                         QString("width %1: %2, wanted %3").arg(width).arg(facts->forgiven_deg).arg(wanted)));
        }
    }

    void the_landing_is_as_deep_as_it_was_built() {
        for (const double depth : {1.0, 2.5, 4.0}) {
            Gap gap;
            gap.depth_m = depth;
            const auto facts = facts_of_gap(gap.maker().level());
            QVERIFY(facts);
            QVERIFY2(facts->landing_depth_m > depth - 0.02 && facts->landing_depth_m < depth * 1.05,
                     qPrintable(QString::number(facts->landing_depth_m)));
            QVERIFY(!facts->clearance_m);
        }
    }

    void the_room_over_the_head_is_measured() {
        for (const double spare : {0.1, 0.5}) {
            Gap gap;
            LevelMaker maker = gap.maker();
            const Character c;
            maker.box({0, 0, c.height_m + c.jump_height_m + spare}, {30, 8, 1});
            const auto facts = facts_of_gap(maker.level());
            QVERIFY(facts && facts->clearance_m);
            QVERIFY2(std::abs(*facts->clearance_m - spare) < 0.01,
                     qPrintable(QString::number(*facts->clearance_m)));
        }
    }

    void a_miss_costs_what_lies_below() {
        Gap gap;
        QCOMPARE(facts_of_gap(gap.maker().level())->miss, SpanFacts::Miss::fatal);
        gap.pit_m = 3; // deeper than anybody jumps
        QCOMPARE(facts_of_gap(gap.maker().level())->miss, SpanFacts::Miss::trap);
        gap.pit_m = 1; // one jumps out again
        const auto facts = facts_of_gap(gap.maker().level());
        QCOMPARE(facts->miss, SpanFacts::Miss::back);
        QVERIFY2(facts->miss_s > 1 && facts->miss_s < 8, qPrintable(QString::number(facts->miss_s)));
        gap.pit_m = 5; // more than is survived
        QCOMPARE(facts_of_gap(gap.maker().level())->miss, SpanFacts::Miss::fatal);
    }

    void a_landing_far_below_is_not_seen() {
        Gap gap;
        gap.gap_m = 3;
        QVERIFY(facts_of_gap(gap.maker().level())->seen);
        gap.gap_m = 2, gap.rise_m = -3; // from eyes at 1.65 m: 67° down
        const auto facts = facts_of_gap(gap.maker().level(), true);
        QVERIFY(facts && !facts->seen);
    }

    void intervals_have_their_known_values() {
        const study::Interval half = study::wilson(50, 100);
        QVERIFY(std::abs(half.low - 0.4038) < 1e-4 && std::abs(half.high - 0.5962) < 1e-4);
        const study::Interval none = study::wilson(0, 10);
        QVERIFY(none.low == 0 && std::abs(none.high - 0.2775) < 1e-4);
    }

    void who_makes_no_mistake_gets_wherever_one_gets() {
        test::Random random(2102);
        for (int round = 0; round < test::rounds(20); ++round) {
            const Level level = test::random_level(random, round % 2 == 1);
            check::CheckOptions options;
            options.explain = options.mends = false;
            const check::CheckResult result = check::check_level({}, level, options);
            const ItemId start = first(level, Role::start);
            study::PlayersOptions exact;
            exact.skill.name = "exact", exact.runs = 1;
            for (const check::Place& place : result.places) {
                if (place.item == start) continue;
                const auto crowd = study::run_players(level, result, start, place.item, exact);
                if (place.reached != check::Reached::yes) {
                    QVERIFY(!crowd || crowd->arrived == 0);
                    continue;
                }
                QVERIFY2(
                    crowd && crowd->arrived == 1,
                    qPrintable(
                        QString("round %1: %2").arg(round).arg(QString::fromStdString(place.item.value))));
            }
        }
    }

    void as_many_miss_as_the_normal_distribution_says() {
        Gap gap;
        gap.gap_m = *check::longest_gap(Character{}, 0) - 0.8;
        const Level level = gap.maker().level();
        const check::CheckResult result = with_spans(level);
        const double half_ms = *facts_of_gap(level)->forgiven_ms / 2;
        study::PlayersOptions options;
        options.skill.press_ms = 80, options.runs = 2000;
        const auto crowd =
            study::run_players(level, result, first(level, Role::start), first(level, Role::goal), options);
        QVERIFY(crowd.has_value());
        int first_missed = 0;
        for (const study::PlayerRun& run : crowd->runs) first_missed += !run.misses.empty();
        const double p = 1 - normal_share(half_ms, 80), n = options.runs;
        QVERIFY2(std::abs(first_missed - n * p) < 4 * std::sqrt(n * p * (1 - p)) + 0.02 * n,
                 qPrintable(QString("%1 of %2, wanted %3").arg(first_missed).arg(n).arg(n * p)));
        QVERIFY(crowd->links.size() == 1 && crowd->costs[0].deaths == crowd->costs[0].misses);
        // Each has five tries.
        const double give_up = std::pow(p, 5);
        QVERIFY(std::abs(crowd->share - (1 - give_up)) < 0.02);
        QVERIFY(crowd->low <= crowd->share && crowd->share <= crowd->high);
    }

    void the_better_one_plays_the_more_arrive() {
        Gap gap;
        gap.gap_m = *check::longest_gap(Character{}, 0) - 0.4;
        const Level level = gap.maker().level();
        const check::CheckResult result = with_spans(level);
        std::vector<double> shares;
        for (const Skill& skill : usual_skills()) {
            study::PlayersOptions options;
            options.skill = skill, options.runs = 400;
            shares.push_back(study::run_players(level, result, first(level, Role::start),
                                                first(level, Role::goal), options)
                                 ->share);
        }
        QVERIFY2(shares[0] < shares[1] && shares[1] < shares[2],
                 qPrintable(QString("%1 %2 %3").arg(shares[0]).arg(shares[1]).arg(shares[2])));
    }

    void parts_put_together_are_the_whole() {
        Gap gap;
        gap.gap_m = 4.2, gap.pit_m = 1;
        const Level level = gap.maker().level();
        const check::CheckResult result = with_spans(level);
        study::PlayersOptions options;
        options.skill = usual_skills()[0], options.runs = 90;
        const auto run = [&](int runs, uint64_t seed) {
            options.runs = runs, options.first_seed = seed;
            return io::crowd_report(level, *study::run_players(level, result, first(level, Role::start),
                                                               first(level, Role::goal), options));
        };
        const io::Json whole = run(90, 1);
        QCOMPARE(run(90, 1), whole); // whatever the threads do
        const auto together = io::gathered({run(30, 1), run(30, 31), run(30, 61)});
        QVERIFY(together.has_value());
        QCOMPARE(QString::fromStdString(io::to_text(*together)), QString::fromStdString(io::to_text(whole)));
        QVERIFY(!io::gathered({}) && !io::gathered({io::Json{{"levels", 3}}, whole}));
    }

    void the_report_says_what_is_known_of_spans() {
        const Level level = Gap{}.maker().level();
        const check::CheckResult result = with_spans(level);
        const auto facts = check::facts_of(result);
        const io::Json report = io::check_report(level, result, &facts);
        QVERIFY(!report["spans"].empty());
        for (const io::Json& span : report["spans"])
            for (const char* key :
                 {"forgiven_ms", "forgiven_deg", "landing_depth_m", "clearance_m", "seen", "miss"})
                QVERIFY2(span.contains(key), key);
    }

    void claims_speak_of_time_ease_and_players() {
        Gap gap;
        gap.gap_m = *check::longest_gap(Character{}, 0) - 0.5;
        Level level = gap.maker().level();
        const ItemId start = first(level, Role::start), goal = first(level, Role::goal);
        const auto claim = [&](const char* id, Claim::Kind kind, const ItemId& from, const ItemId& to,
                               double value, const char* skill = "") {
            Claim out;
            out.id = {id}, out.kind = kind, out.from = from, out.to = to, out.value = value,
            out.skill = skill;
            level.claims.push_back(out);
        };
        const double route_s = with_spans(level).places.back().time_s;
        QVERIFY(route_s > 2);
        const ItemId near = level.layers[0]->items[0]->id, far = level.layers[0]->items[1]->id;
        claim("in time", Claim::Kind::within, start, goal, route_s + 0.1);
        claim("too late", Claim::Kind::within, start, goal, route_s - 0.1);
        claim("easy enough", Claim::Kind::stays, near, far, 5);
        claim("harder than that", Claim::Kind::stays, near, far, 50);
        claim("no way back", Claim::Kind::stays, far, {"gone"}, 0);
        claim("experts", Claim::Kind::share, start, goal, 60, "expert");
        claim("all newcomers", Claim::Kind::share, start, goal, 100, "newcomer");
        claim("nobody", Claim::Kind::share, start, goal, 10, "ghost");
        const auto again = io::level_from_text(io::text_of(level), "l");
        QVERIFY(again.has_value());
        QCOMPARE(again->claims, level.claims);
        check::CheckResult result = with_spans(level);
        QCOMPARE(result.claims[5].state, check::ClaimState::undecided); // players were not asked
        study::judge_shares({}, level, result);
        using enum check::ClaimState;
        const check::ClaimState wanted[] = {holds, fails, holds, fails, undecided, holds, fails, undecided};
        for (size_t i = 0; i < std::size(wanted); ++i) {
            QVERIFY2(result.claims[i].state == wanted[i], level.claims[i].id.value.c_str());
            QCOMPARE(result.claims[i].reason.empty(), wanted[i] == holds);
        }
    }

    void tracks_go_from_start_to_goal() {
        const Level level = Gap{}.maker().level();
        study::PlayersOptions options;
        options.skill = usual_skills()[2], options.runs = 3, options.tracks = 2;
        const auto crowd = study::run_players(level, with_spans(level), first(level, Role::start),
                                              first(level, Role::goal), options);
        QVERIFY(crowd && crowd->runs[2].track.empty());
        const auto& track = crowd->runs[0].track;
        QVERIFY(glm::length(track.front() - Vec3(-8, 0, 0)) < 0.1);
        QVERIFY(crowd->runs[0].arrived && track.back().x > 8);
    }

    void skills_are_kept_in_the_project() {
        Project project;
        project.name = "Cannery";
        QCOMPARE(skills_of(project).size(), size_t(3));
        project.skills = {{"night shift", 120, 8, 20, 400}};
        const auto again = io::project_from_text(io::text_of(project), "p");
        QVERIFY(again.has_value());
        QCOMPARE(again->skills, project.skills);
        for (const char* bad :
             {R"({"name":""})", R"({"name":"x","press_ms":-1})", R"({"name":"x","turn_deg":"a"})"})
            QVERIFY(!io::project_from_text(std::string(R"({"format":1,"name":"x","skills":[)") + bad + "]}",
                                           "p"));
    }
};

RUBBLE_TEST(PlayersTest)
#include "players_test.moc"
