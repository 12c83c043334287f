#include "check/check.h"

#include "check/missing_items.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <set>

#include "base/tolerance.h"
#include "check/claims.h"
#include "check/dead_end_openings.h"
#include "check/excuses.h"
#include "check/findings.h"
#include "check/flight.h"
#include "check/foe_watch.h"
#include "check/mends.h"
#include "check/near_miss.h"
#include "check/pace.h"
#include "check/stages.h"
#include "edit/chance.h"
#include "edit/items.h"
#include "edit/tiles.h"

namespace rubble::check {

namespace {

/// So many ways in which places of chance may turn out are tried, besides the one that is shown.
constexpr size_t k_most_outcomes = 24;

using Clock = std::chrono::steady_clock;

double ms_since(Clock::time_point begin) {
    return std::chrono::duration<double, std::milli>(Clock::now() - begin).count();
}

/// What a near miss says: numbers first, then what can be done.
Sentences sentences_of(const NearMiss& miss, const std::string& who) {
    const Metres missing{miss.missing_m};
    Sentences says;
    switch (miss.limit) {
    case Limit::gap:
        says = {{"Gap of %1 is %2 too wide for %3 at this height.", {Metres{miss.gap_m}, missing, who}}};
        break;
    case Limit::height:
    case Limit::step:
        says = {miss.rise_m > 0
                    ? Sentence{"Rise of %1 is %2 too high for %3.", {Metres{miss.rise_m}, missing, who}}
                    : Sentence{"A step on the way is %1 too high for %2.", {missing, who}}};
        break;
    case Limit::fall:
        says = {{"Drop of %1 is %2 deeper than %3 survives.", {Metres{-miss.rise_m}, missing, who}}};
        break;
    case Limit::slope:
        says = {{"A slope on the way is %1 too steep for %2.", {Degrees{miss.missing_deg}, who}}};
        break;
    case Limit::width:
        says = {{"A passage on the way is %1 too narrow for %2.", {missing, who}}};
        break;
    case Limit::headroom:
        says = {{"Headroom on the way is %1 too low for %2.", {missing, who}}};
        break;
    case Limit::item: // told where it is found
        break;
    }
    for (size_t i = 0; i < miss.mends.size(); ++i) {
        if (i > 0) says.push_back({"Or:"});
        says.insert(says.end(), miss.mends[i].says.begin(), miss.mends[i].says.end());
    }
    return says;
}

/// One check under way.
class Checker {
public:
    Checker(const Project& project, const Level& level, const CheckOptions& options)
        : project_(project),
          level_(level),
          options_(options),
          c_(character_of(project, level)),
          who_(character_name(project, level)) {}

    CheckResult run(build::SolidBuilder& builder) {
        const auto begin = Clock::now();
        return run(std::make_shared<build::Solid>(builder.build(level_, options_.cancel)), begin);
    }

    CheckResult run(std::shared_ptr<const build::Solid> solid, Clock::time_point begin = Clock::now()) {
        result_.solid = std::move(solid);
        if (stopped()) return {};
        const CheckResult* any_before = options_.before.get();
        const CheckResult* before = usable_before();
        result_.world = world_stage(*result_.solid, any_before);
        result_.timing.build_ms = ms_since(begin);
        report(0.1);

        const auto reach_begin = Clock::now();
        result_.character = c_;
        const auto change =
            before ? motion::change_between(*before->world, *result_.world) : motion::WorldChange{};
        terrain_ = terrain_stage(result_.world, c_, before, change, options_.cancel);
        result_.ground = terrain_.ground;
        if (stopped()) return {};
        report(0.3);
        queries_.emplace(*result_.ground, *result_.world, c_, options_.cancel);
        const Ways ways = ways_stage(*queries_, terrain_, level_, before, change, options_.cancel);
        result_.starts = ways.starts, result_.goals = ways.goals;
        result_.reach = ways.reach, result_.returns = ways.returns;
        if (stopped()) return {};
        if (ways.starts.size() == 1 && !queries_->elements_act()) queries_->know(ways.starts[0], ways.reach);
        result_.timing.reach_ms = ms_since(reach_begin);
        if (options_.on_reach) options_.on_reach(result_);
        report(0.6);
        result_.places = places_stage(*queries_, ways, level_, before, options_.explain, options_.cancel);
        result_.judged = claims_stage(*queries_, terrain_, level_, who_, before, options_.cancel);
        result_.claims = result_.judged;
        result_.measured =
            std::make_shared<MeasuredLinks>(spans_stage(terrain_, c_, project_, links_to_measure(), before));
        result_.spans = result_.measured->best;
        report(0.8);
        if (queries_->elements_act() && options_.explain)
            result_.bands = std::make_shared<Bands>(bands_of(*queries_, result_.starts));
        explain(before);
        if (stopped()) return {};
        if (options_.explain) result_.foe_watches = watch_foes(level_, result_);
        result_.findings = find_findings(project_, level_, result_);
        if (options_.explain)
            for (Finding& finding : find_on_the_way(project_, level_, result_))
                result_.findings.push_back(std::move(finding));
        set_excused_apart(project_, level_, result_);
        result_.maze = maze(before);
        result_.timing.total_ms = ms_since(begin);
        result_.complete = true;
        report(1);
        return std::move(result_);
    }

private:
    bool stopped() const { return options_.cancel.requested(); }
    void report(double part) const {
        if (options_.progress) options_.progress(part);
    }

    const CheckResult* usable_before() const {
        const CheckResult* before = options_.before.get();
        // Where elements act, what was reached depends on more than on matter.
        if (before && before->world && (before->world->elements() || before->world->moving().puzzle))
            return nullptr;
        return before && before->world && before->ground && before->reach && before->reach->complete &&
                       before->character == c_
                   ? before
                   : nullptr;
    }

    /// The maze of the level, that of before where ground, start and goal are the same.
    std::shared_ptr<const Maze> maze(const CheckResult* before) const {
        if (result_.starts.empty() || result_.goals.empty()) return {};
        const bool same = before && before->complete && before->ground == result_.ground &&
                          before->starts == result_.starts && before->goals == result_.goals;
        if (same) return before->maze;
        const auto maze = maze_of(level_, *result_.world, *result_.ground, c_, result_.starts[0],
                                  result_.goals[0], options_.cancel);
        if (!maze || maze->dead_ends.empty()) return maze;
        Maze with_openings = *maze;
        with_openings.openings = openings_of(*maze, *result_.world, *result_.ground, *result_.reach, c_);
        return std::make_shared<const Maze>(std::move(with_openings));
    }

    /// Those that witnesses use, or all.
    std::vector<std::shared_ptr<const Link>> links_to_measure() const {
        std::vector<std::shared_ptr<const Link>> links;
        auto add_legs = [&](const std::optional<Witness>& witness) {
            if (!witness) return;
            for (const auto& leg : witness->legs)
                if (leg.link) links.push_back(leg.link);
        };
        for (const auto& place : result_.places) add_legs(place.witness);
        for (const auto& claim : result_.claims) add_legs(claim.witness);
        if (options_.all_spans)
            links.insert(links.end(), result_.reach->links.begin(), result_.reach->links.end());
        return links;
    }

    /// Says what is missing where something is not reached, as before where nothing that counts changed.
    void explain(const CheckResult* before) {
        auto with = std::make_shared<ExplainedWith>(ExplainedWith{project_, level_.layers, level_.claims,
                                                                  level_.character, level_.also_proven,
                                                                  options_.explain, options_.mends});
        if (before && before->explained && same(*before->explained, *with)) {
            result_.near_misses = before->near_misses;
            result_.claims = before->claims;
        } else {
            find_near_misses();
            prove_other_outcomes();
            prove_for_others();
        }
        result_.explained = std::move(with);
    }
    static bool same(const ExplainedWith& a, const ExplainedWith& b) {
        return a.layers.size() == b.layers.size() &&
               std::equal(a.layers.begin(), a.layers.end(), b.layers.begin(),
                          [](const auto& x, const auto& y) { return x.is(y); }) &&
               a.claims == b.claims && a.character == b.character && a.also == b.also &&
               a.explain == b.explain && a.mends == b.mends && a.project == b.project;
    }

    void find_near_misses() {
        if (!options_.explain) return;
        std::set<ItemId> asked;
        OtherMetrics others(*result_.world, options_.cancel);
        result_.near_misses.reserve(level_.claims.size() +
                                    result_.places.size()); // pointers into it stay good
        auto look = [&](const ItemId& from_id, const ItemId& to_id, const Reach& reach) -> const NearMiss* {
            for (const NearMiss& known : result_.near_misses)
                if (known.from == from_id && known.to == to_id) return &known;
            const Item *from = find_item(level_, from_id), *to = find_item(level_, to_id);
            if (!from || !to || !from->element() || !to->element()) return nullptr;
            auto miss =
                near_miss(others, *result_.world, *result_.ground, reach, c_,
                          met_at(level_, *from->element()), met_at(level_, *to->element()), options_.cancel);
            if (!miss) return nullptr;
            miss->from = from_id, miss->to = to_id;
            if (options_.mends) {
                miss->mends = find_mends(project_, level_, *result_.world, trials_, *miss, options_.cancel);
                for (Mend& mend : miss->mends) note_breaks(mend);
            }
            miss->says = sentences_of(*miss, who_);
            result_.near_misses.push_back(std::move(*miss));
            return &result_.near_misses.back();
        };
        for (size_t i = 0; i < level_.claims.size() && i < result_.claims.size(); ++i) {
            const Claim& claim = level_.claims[i];
            ClaimResult& judged = result_.claims[i];
            if (stopped() || judged.state != ClaimState::fails || !kind_of(claim).wants_a_way) continue;
            if (queries_->elements_act()) {
                if (const NearMiss* miss = look_for_items(claim.from, claim.to))
                    judged.reason.insert(judged.reason.end(), miss->says.begin(), miss->says.end());
                asked.insert(claim.to);
                continue;
            }
            const Element* from = find_item(level_, claim.from)->element();
            const Element* to = find_item(level_, claim.to)->element();
            const bool there = queries_->ask(from->at, to->at).reached == Reached::yes;
            const NearMiss* miss = there ? look(claim.to, claim.from, queries_->reach_from(to->at))
                                         : look(claim.from, claim.to, queries_->reach_from(from->at));
            if (miss) judged.reason.insert(judged.reason.end(), miss->says.begin(), miss->says.end());
            asked.insert(claim.to);
        }
        const auto starts = elements_of(level_, Role::start);
        for (const Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            const Role role = role_of(*item->element());
            if (stopped() || starts.empty() || place.reached != Reached::no || asked.contains(place.item))
                continue;
            if (role == Role::note || role == Role::place || role == Role::device || role == Role::start)
                continue;
            if (queries_->elements_act() && look_for_items(starts[0]->id, place.item)) continue;
            if (result_.world->moving().puzzle) continue; // what keeps one away there is no matter
            look(starts[0]->id, place.item, *result_.reach);
        }
    }

    /// What has to be open or had to get to a place, where that is what is missing.
    const NearMiss* look_for_items(const ItemId& from, const ItemId& to) {
        const Item *start = find_item(level_, from), *end = find_item(level_, to);
        if (!start || !end || !start->element() || !end->element()) return nullptr;
        const Vec3 from_at = met_at(level_, *start->element()), to_at = met_at(level_, *end->element());
        const auto& puzzle = result_.world->moving().puzzle;
        auto says = puzzle ? missing_items_by_cells(*puzzle, queries_->by_cells().cell_of(from_at), to,
                                                    queries_->by_cells().cell_of(to_at))
                    : result_.bands ? missing_items(*queries_, level_, *result_.bands, from_at, to, to_at)
                                    : std::optional<Sentences>();
        if (!says) return nullptr;
        NearMiss miss;
        miss.from = from, miss.to = to, miss.limit = Limit::item;
        miss.take_off = from_at, miss.landing = to_at;
        miss.says = std::move(*says);
        result_.near_misses.push_back(std::move(miss));
        return &result_.near_misses.back();
    }

    /// Claims that hold are to hold however the places of chance turn out.
    void prove_other_outcomes() {
        const edit::Outcomes outcomes = edit::outcomes_of(level_, k_most_outcomes);
        if (outcomes.sources.empty()) return;
        for (size_t which = 0; which < outcomes.sources.size(); ++which) {
            const Level level = edit::with_outcome(project_, level_, outcomes, which);
            const auto world = motion::world_of(trials_.build(level, options_.cancel));
            const Ground ground = ground_of(world, c_, options_.cancel);
            ReachQueries queries(ground, world, c_, options_.cancel);
            for (size_t i = 0; i < level_.claims.size() && i < result_.claims.size(); ++i) {
                ClaimResult& claim = result_.claims[i];
                if (claim.state != ClaimState::holds || lacks_an_end(level, level_.claims[i])) continue;
                ClaimResult then = judge(level, level_.claims[i], who_, queries);
                if (stopped()) return;
                if (then.state == ClaimState::holds) continue;
                claim.state = then.state, claim.witness = std::move(then.witness);
                claim.reason = {turned_out(outcomes, which)};
                claim.reason.insert(claim.reason.end(), then.reason.begin(), then.reason.end());
            }
        }
        if (outcomes.all) return;
        for (ClaimResult& claim : result_.claims)
            if (claim.state == ClaimState::holds) {
                claim.state = ClaimState::undecided;
                claim.reason = {{"It holds as far as was tried: there are too many ways in which places of "
                                 "chance may turn out."}};
            }
    }

    /// Whether a claim speaks of an element that is not there as places of chance turned out.
    static bool lacks_an_end(const Level& level, const Claim& claim) {
        const auto lacks = [&](const ItemId& id) { return !id.empty() && !find_item(level, id); };
        return lacks(claim.from) || lacks(claim.to) || lacks(claim.item);
    }

    /// What the places hold that hold something else than is shown; the first of them is named.
    Sentence turned_out(const edit::Outcomes& outcomes, size_t which) const {
        for (size_t i = 0; i < outcomes.places.size(); ++i) {
            const std::string& source = outcomes.sources[which][i];
            if (find_item(level_, outcomes.places[i])->assembly()->source == source) continue;
            const auto assembly = find_assembly(project_, source);
            return {"With %1 at %2:", {assembly ? assembly->name : source, outcomes.places[i]}};
        }
        if (!outcomes.groups.empty())
            return {"With %1 where one of several is:", {outcomes.groups[0][outcomes.kept[which][0]]}};
        return {"As places of chance may turn out:"};
    }

    /// Claims that hold are to hold with the other characters, and under the other rules, for which the level
    /// is to be proven too.
    void prove_for_others() {
        for (const AlsoProven& also : level_.also_proven) {
            Level level = level_;
            if (!also.character.empty()) level.character = also.character;
            const RuleSet* set = find_rule_set(project_, also.rules);
            level.rules = rules_for(project_, level, set ? set->rules : project_.rules);
            const Character c = character_of(project_, level);
            const std::string who = character_name(project_, level);
            const auto world = motion::world_of(trials_.build(level, options_.cancel));
            const Ground ground = ground_of(world, c, options_.cancel);
            ReachQueries queries(ground, world, c, options_.cancel);
            for (size_t i = 0; i < level_.claims.size() && i < result_.claims.size(); ++i) {
                ClaimResult& claim = result_.claims[i];
                if (claim.state == ClaimState::fails) continue;
                ClaimResult then = judge(level, level_.claims[i], who, queries);
                if (stopped()) return;
                if (then.state == ClaimState::holds) continue;
                claim.state = then.state, claim.witness = std::move(then.witness);
                claim.reason = {also.rules.empty()
                                    ? Sentence{"With %1:", {who}}
                                    : Sentence{"With %1 under the rules \"%2\":", {who, also.rules}}};
                claim.reason.insert(claim.reason.end(), then.reason.begin(), then.reason.end());
            }
        }
    }

    /// Claims that hold now and would not with the mend.
    void note_breaks(Mend& mend) {
        const auto still_holds = [](const ClaimResult& claim) { return claim.state == ClaimState::holds; };
        if (std::none_of(result_.claims.begin(), result_.claims.end(), still_holds)) return;
        const Level level = mended(level_, mend);
        const auto world = motion::world_of(trials_.build(level, options_.cancel));
        const Ground ground = ground_of(world, c_, options_.cancel);
        ReachQueries queries(ground, world, c_, options_.cancel);
        for (size_t i = 0; i < level_.claims.size() && i < result_.claims.size(); ++i) {
            if (!still_holds(result_.claims[i])) continue;
            const ClaimState then = judge(level, level_.claims[i], who_, queries).state;
            if (stopped()) return;
            if (then == ClaimState::holds) continue;
            mend.breaks.push_back(level_.claims[i].id);
            mend.says.push_back({"Claim %1 then fails.", {level_.claims[i].id}});
        }
    }

    const Project& project_;
    const Level& level_;
    const CheckOptions& options_;
    const Character c_;
    const std::string who_;
    Terrain terrain_;
    std::optional<ReachQueries> queries_;
    build::SolidBuilder trials_; ///< of the level as mends would make it
    CheckResult result_;
};

} // namespace

CheckResult check_level(const Project& project, const Level& level, build::SolidBuilder& builder,
                        const CheckOptions& options) {
    return Checker(project, level, options).run(builder);
}

CheckResult check_level(const Project& project, const Level& level, std::shared_ptr<const build::Solid> solid,
                        const CheckOptions& options) {
    return Checker(project, level, options).run(std::move(solid));
}

CheckResult check_level(const Project& project, const Level& level, const CheckOptions& options) {
    build::SolidBuilder builder;
    return check_level(project, level, builder, options);
}

Trial tried(const Project& project, const Level& level, build::SolidBuilder& builder, const ItemId& from,
            const ItemId& to, const Cancel& cancel) {
    const Item *a = find_item(level, from), *b = find_item(level, to);
    if (!a || !b || !a->element() || !b->element()) return {};
    const Character c = character_of(project, level);
    const auto world = motion::world_of(builder.build(level, cancel));
    const Ground ground = ground_of(world, c, cancel);
    if (cancel.requested()) return {};
    ReachQueries queries(ground, world, c, cancel, false);
    const ReachQueries::Answer answer =
        queries.ask(met_at(level, *a->element()), met_at(level, *b->element()));
    Trial trial{answer.reached, {}};
    if (!answer.witness) return trial;
    for (const auto& leg : answer.witness->legs) {
        if (!leg.link || leg.link->kind == LinkKind::drop) continue;
        const Grade grade = span_of(ground, world, c, project, *leg.link).grade;
        trial.hardest = std::max(trial.hardest.value_or(Grade::easy), grade);
    }
    return trial;
}

Level mended(const Level& level, const Mend& mend) {
    Level out = level;
    for (const MendEdit& edit : mend.edits)
        out = edit.added ? edit::with_item(out, int(out.layers.size()) - 1, edit.item)
                         : edit::with_changed(out, edit.item);
    for (const MendCells& edit : mend.cells) out = edit::with_tiles(out, edit.layer, edit.cells);
    return out;
}

const char* reached_key(Reached reached) {
    switch (reached) {
    case Reached::yes:
        return "yes";
    case Reached::with_help:
        return "with_help";
    case Reached::no:
        return "no";
    case Reached::undecided:
        return "undecided";
    }
    return "";
}

const char* state_key(ClaimState state) {
    return state == ClaimState::holds ? "holds" : state == ClaimState::fails ? "fails" : "undecided";
}

const char* severity_key(Severity severity) {
    return severity == Severity::blocker ? "blocker" : severity == Severity::concern ? "concern" : "remark";
}

const char* limit_key(Limit limit) {
    switch (limit) {
    case Limit::gap:
        return "gap";
    case Limit::height:
        return "height";
    case Limit::headroom:
        return "headroom";
    case Limit::slope:
        return "slope";
    case Limit::step:
        return "step";
    case Limit::width:
        return "width";
    case Limit::fall:
        return "fall";
    case Limit::item:
        return "item";
    }
    return "";
}

} // namespace rubble::check
