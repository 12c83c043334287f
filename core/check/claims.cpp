#include "check/claims.h"

#include <cmath>
#include <cstdio>

#include "check/claims_in_play.h"
#include "level/element_kinds.h"
#include "level/order.h"

namespace rubble::check {

namespace {

const Element* element_of(const Level& level, const ItemId& id) {
    const Item* item = find_item(level, id);
    return item ? item->element() : nullptr;
}

ClaimState state_for(Reached reached) {
    return reached == Reached::yes         ? ClaimState::holds
           : reached == Reached::undecided ? ClaimState::undecided
                                           : ClaimState::fails;
}

Sentences why_not(Reached reached, const std::string& who, const ItemId& from, const ItemId& to) {
    if (reached == Reached::with_help)
        return {{"%1 gets from %2 to %3 only with a late jump.", {who, from, to}}};
    if (reached == Reached::undecided) return {{"The way from %1 to %2 could not be decided.", {from, to}}};
    return {{"%1 does not get from %2 to %3.", {who, from, to}}};
}

} // namespace

namespace {

/// Links that were found from where play begins.
std::vector<std::shared_ptr<const Link>> known_links(const Level& level, ReachQueries& queries) {
    std::vector<std::shared_ptr<const Link>> out;
    for (const Item* start : elements_of(level, Role::start)) {
        const Vec3 at = met_at(level, *start->element());
        if (!queries.elements_act()) {
            const auto& links = queries.reach_from(at).links;
            out.insert(out.end(), links.begin(), links.end());
        } else if (queries.world().elements()) {
            for (const PlayReach::Chapter& chapter : queries.play_from(at).chapters())
                out.insert(out.end(), chapter.reach.links.begin(), chapter.reach.links.end());
        }
    }
    return out;
}

/// To a tenth.
std::string seconds(double value) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f", value);
    return text;
}

std::string percent(double value) { return std::to_string(std::lround(value)); }

/// Whether the best span from one item to another has as much to spare as is claimed.
ClaimResult judge_stays(const Level& level, const Claim& claim, ReachQueries& queries) {
    constexpr double k_rounding_pct = 0.05;
    ClaimResult result;
    result.id = claim.id;
    if (!find_item(level, claim.from) || !find_item(level, claim.to)) {
        const ItemId& gone = find_item(level, claim.from) ? claim.to : claim.from;
        result.reason = {{"\"%1\" is not in this level.", {gone.value}}, {"Choose another span."}};
        return result;
    }
    std::optional<double> best;
    for (const auto& link : known_links(level, queries)) {
        if (link->kind == LinkKind::drop ||
            item_under(queries.ground(), queries.world(), link->start) != claim.from ||
            item_under(queries.ground(), queries.world(), link->rest) != claim.to)
            continue;
        const Span span = span_of(queries.ground(), queries.world(), queries.character(), Project{}, *link);
        best = std::max(best.value_or(0), span.least_pct(queries.character().step_height_m));
    }
    result.state = best && *best >= claim.value - k_rounding_pct ? ClaimState::holds : ClaimState::fails;
    if (!best)
        result.reason = {{"There is no span from %1 to %2 any more.", {claim.from, claim.to}}};
    else if (result.state == ClaimState::fails)
        result.reason = {{"From %1 to %2 there are %3 % to spare; %4 % were claimed.",
                          {claim.from, claim.to, percent(*best), percent(claim.value)}}};
    return result;
}

} // namespace

ClaimQuestion question_of(const Level& level, const Claim& claim, const std::string& who) {
    ClaimQuestion question{claim, {}, {}, who};
    if (const Element* from = element_of(level, claim.from)) question.from = met_at(level, *from);
    if (const Element* to = element_of(level, claim.to)) question.to = met_at(level, *to);
    return question;
}

ClaimResult judge(const Level& level, const Claim& claim, const std::string& who, ReachQueries& queries) {
    switch (claim.kind) {
    case Claim::Kind::needs:
    case Claim::Kind::order:
        return judge_needs(level, claim, who, queries);
    case Claim::Kind::all_pickups:
        return judge_all_pickups(level, claim, who, queries);
    case Claim::Kind::never_stuck:
        return judge_never_stuck(level, claim, who, queries);
    case Claim::Kind::at_most:
        return judge_at_most(level, claim);
    case Claim::Kind::stays:
        return judge_stays(level, claim, queries);
    case Claim::Kind::share: {
        ClaimResult result;
        result.id = claim.id;
        result.reason = {{"Players were not asked yet."}};
        return result;
    }
    case Claim::Kind::reaches:
    case Claim::Kind::not_reaches:
    case Claim::Kind::returns:
    case Claim::Kind::within:
        break;
    }
    ClaimResult result;
    result.id = claim.id;
    const Element *from = element_of(level, claim.from), *to = element_of(level, claim.to);
    if (!from || !to) {
        result.reason = {{"\"%1\" is not an element of this level.", {(from ? claim.to : claim.from).value}},
                         {"Choose another end."}};
        return result;
    }
    auto answer = queries.ask(from->at, to->at);
    auto keep = [&](ReachQueries::Answer& a) {
        if (a.witness) result.time_s = a.witness->seconds();
        result.witness = std::move(a.witness);
    };
    switch (claim.kind) {
    case Claim::Kind::reaches:
        result.state = state_for(answer.reached);
        if (result.state != ClaimState::holds)
            result.reason = why_not(answer.reached, who, claim.from, claim.to);
        keep(answer);
        break;
    case Claim::Kind::within:
        result.state = state_for(answer.reached);
        if (result.state != ClaimState::holds)
            result.reason = why_not(answer.reached, who, claim.from, claim.to);
        keep(answer);
        if (result.state == ClaimState::holds && result.time_s > claim.value) {
            result.state = ClaimState::fails;
            result.reason = {{"From %1 to %2 it takes %3 s; %4 s were claimed.",
                              {claim.from, claim.to, seconds(result.time_s), seconds(claim.value)}}};
        }
        break;
    case Claim::Kind::not_reaches:
        result.state = answer.reached == Reached::no          ? ClaimState::holds
                       : answer.reached == Reached::undecided ? ClaimState::undecided
                                                              : ClaimState::fails;
        if (result.state == ClaimState::undecided)
            result.reason = why_not(answer.reached, who, claim.from, claim.to);
        if (answer.reached == Reached::yes)
            result.reason = {{"%1 gets from %2 to %3.", {who, claim.from, claim.to}}};
        if (answer.reached == Reached::with_help)
            result.reason = {{"%1 gets from %2 to %3 with a late jump.", {who, claim.from, claim.to}}};
        keep(answer);
        break;
    case Claim::Kind::returns: {
        result.state = state_for(answer.reached);
        if (result.state != ClaimState::holds) {
            result.reason = why_not(answer.reached, who, claim.from, claim.to);
            break;
        }
        auto back = queries.ask_back(from->at, to->at);
        result.state = state_for(back.reached);
        if (result.state != ClaimState::holds)
            result.reason = why_not(back.reached, who, claim.to, claim.from);
        keep(back);
        break;
    }
    default: // judged above
        break;
    }
    return result;
}

} // namespace rubble::check
