#include "check/check.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <set>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/claims.h"
#include "check/findings.h"
#include "check/flight.h"
#include "check/mends.h"
#include "check/near_miss.h"
#include "edit/items.h"

namespace rubble::check {

namespace {

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
        result_.world = std::make_shared<motion::World>(motion::world_of(*result_.solid));
        result_.timing.build_ms = ms_since(begin);
        report(0.1);

        const auto reach_begin = Clock::now();
        result_.character = c_;
        const CheckResult* before = usable_before();
        const auto change =
            before ? motion::change_between(*before->world, *result_.world) : motion::WorldChange{};
        const auto ground_before =
            before ? std::optional<GroundBefore>({*before->ground, change}) : std::nullopt;
        const auto reach_before =
            before ? std::optional<ReachBefore>({*before->ground, *before->reach, before->returns, change})
                   : std::nullopt;
        result_.ground = std::make_shared<Ground>(
            ground_of(*result_.world, c_, options_.cancel, ground_before ? &*ground_before : nullptr));
        if (stopped()) return {};
        report(0.3);
        queries_.emplace(*result_.ground, *result_.world, c_, options_.cancel);
        search(reach_before ? &*reach_before : nullptr);
        if (stopped()) return {};
        result_.timing.reach_ms = ms_since(reach_begin);
        if (options_.on_reach) options_.on_reach(result_);
        report(0.6);
        find_places();
        judge_claims();
        find_spans();
        report(0.8);
        find_near_misses();
        if (stopped()) return {};
        result_.findings = find_findings(project_, level_, result_);
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
        return before && before->world && before->ground && before->reach && before->reach->complete &&
                       before->character == c_
                   ? before
                   : nullptr;
    }

    void search(const ReachBefore* before) {
        for (const Item* start : elements_of(level_, Role::start)) start_at_.push_back(start->element()->at);
        ReachOptions options;
        options.before = before;
        options.cancel = options_.cancel;
        auto reach = std::make_shared<Reach>(search_reach(queries_->searcher(), start_at_, options));
        std::vector<int> targets;
        for (int ledge = 0; ledge < int(reach->arrivals.size()); ++ledge)
            if (reach->tinted(ledge) && !reach->arrivals[size_t(ledge)]->link) targets.push_back(ledge);
        for (const Item* goal : elements_of(level_, Role::goal))
            for (const Spot& spot : spots_of(*result_.ground, c_, goal->element()->at))
                targets.push_back(spot.ledge);
        result_.returns = search_return(queries_->searcher(), *reach, targets, options);
        result_.reach = reach;
        if (start_at_.size() == 1) queries_->know(start_at_[0], reach);
    }

    void find_places() {
        std::vector<const Item*> elements = elements_of(level_);
        result_.places.resize(elements.size());
        parallel_for(elements.size(), [&](size_t i) {
            Place& place = result_.places[i];
            place.item = elements[i]->id;
            if (stopped() || start_at_.empty()) return;
            const Vec3& at = elements[i]->element()->at;
            ReachQueries::Answer best = queries_->ask(*result_.reach, at);
            if (best.reached == Reached::no && options_.explain)
                best = queries_->ask_with_help(*result_.reach, at);
            place.reached = best.reached;
            if (best.witness) place.time_s = best.witness->seconds();
            place.witness = std::move(best.witness);
        });
    }

    void judge_claims() {
        for (const Claim& claim : level_.claims) {
            if (stopped()) return;
            result_.claims.push_back(judge(level_, claim, who_, *queries_));
        }
    }

    /// Spans of all links, or of those that a witness uses; the best one of each pair of ledges and kind.
    void find_spans() {
        std::vector<const Link*> links;
        std::set<std::array<double, 6>> seen;
        auto add = [&](const Link& link) {
            const Vec3 &a = link.take_off, &b = link.landing;
            if (link.kind != LinkKind::drop && seen.insert({a.x, a.y, a.z, b.x, b.y, b.z}).second)
                links.push_back(&link);
        };
        auto add_legs = [&](const std::optional<Witness>& witness) {
            if (!witness) return;
            for (const auto& leg : witness->legs)
                if (leg.link) add(*leg.link);
        };
        for (const auto& place : result_.places) add_legs(place.witness);
        for (const auto& claim : result_.claims) add_legs(claim.witness);
        if (options_.all_spans)
            for (const auto& link : result_.reach->links) add(*link);
        std::vector<Span> spans(links.size());
        parallel_for(
            links.size(),
            [&](size_t i) { spans[i] = span_of(*result_.ground, *result_.world, c_, project_, *links[i]); },
            8);
        for (Span& span : spans) {
            auto same = std::find_if(result_.spans.begin(), result_.spans.end(), [&](const Span& other) {
                return other.from_ledge == span.from_ledge && other.to_ledge == span.to_ledge &&
                       other.kind == span.kind;
            });
            if (same == result_.spans.end())
                result_.spans.push_back(std::move(span));
            else if (span.least_pct(c_.step_height_m) > same->least_pct(c_.step_height_m))
                *same = std::move(span);
        }
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
            auto miss = near_miss(others, *result_.world, *result_.ground, reach, c_, from->element()->at,
                                  to->element()->at, options_.cancel);
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
            if (role == Role::note || role == Role::place || role == Role::start) continue;
            look(starts[0]->id, place.item, *result_.reach);
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
    std::vector<Vec3> start_at_;
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
    const ReachQueries::Answer answer = queries.ask(a->element()->at, b->element()->at);
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
    }
    return "";
}

} // namespace rubble::check
