#include "check/claims.h"

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

std::string why_not(Reached reached, const std::string& who, const std::string& from, const std::string& to) {
    if (reached == Reached::with_help)
        return who + " gets from " + from + " to " + to + " only with a late jump.";
    if (reached == Reached::undecided) return "The way from " + from + " to " + to + " could not be decided.";
    return who + " does not get from " + from + " to " + to + ".";
}

} // namespace

ClaimResult judge(const Level& level, const Claim& claim, const std::string& who, Asking& asking) {
    ClaimResult result;
    result.id = claim.id;
    const Element *from = element_of(level, claim.from), *to = element_of(level, claim.to);
    if (!from || !to) {
        result.reason = "\"" + (from ? claim.to : claim.from).value +
                        "\" is not an element of this level. Choose another end.";
        return result;
    }
    const std::string from_name = find_item(level, claim.from)->title(),
                      to_name = find_item(level, claim.to)->title();
    auto answer = asking.ask(from->at, to->at);
    auto keep = [&](Asking::Answer& a) {
        if (a.witness) result.time_s = a.witness->seconds();
        result.witness = std::move(a.witness);
    };
    switch (claim.kind) {
    case Claim::Kind::reaches:
        result.state = state_for(answer.reached);
        if (result.state != ClaimState::holds)
            result.reason = why_not(answer.reached, who, from_name, to_name);
        keep(answer);
        break;
    case Claim::Kind::not_reaches:
        result.state = answer.reached == Reached::no          ? ClaimState::holds
                       : answer.reached == Reached::undecided ? ClaimState::undecided
                                                              : ClaimState::fails;
        if (result.state == ClaimState::undecided)
            result.reason = why_not(answer.reached, who, from_name, to_name);
        if (answer.reached == Reached::yes)
            result.reason = who + " gets from " + from_name + " to " + to_name + ".";
        if (answer.reached == Reached::with_help)
            result.reason = who + " gets from " + from_name + " to " + to_name + " with a late jump.";
        keep(answer);
        break;
    case Claim::Kind::returns: {
        result.state = state_for(answer.reached);
        if (result.state != ClaimState::holds) {
            result.reason = why_not(answer.reached, who, from_name, to_name);
            break;
        }
        auto back = asking.ask(to->at, from->at);
        result.state = state_for(back.reached);
        if (result.state != ClaimState::holds) result.reason = why_not(back.reached, who, to_name, from_name);
        keep(back);
        break;
    }
    }
    return result;
}

} // namespace rubble::check
