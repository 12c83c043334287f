#include "check/claims.h"

#include "check/claims_in_play.h"

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
    case Claim::Kind::reaches:
    case Claim::Kind::not_reaches:
    case Claim::Kind::returns:
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
