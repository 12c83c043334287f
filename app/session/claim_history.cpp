#include "session/claim_history.h"

namespace rubble::app {

void ClaimHistory::note(const check::CheckResult& result, const QString& edit) {
    for (const check::ClaimResult& claim : result.claims) {
        if (claim.state == check::ClaimState::undecided) continue;
        const auto [known, is_new] = states_.try_emplace(claim.id, claim.state);
        if (claim.state == check::ClaimState::holds)
            since_.erase(claim.id);
        else if (!is_new && known->second == check::ClaimState::holds)
            since_[claim.id] = edit;
        known->second = claim.state;
    }
}

QString ClaimHistory::since(const ClaimId& claim) const {
    const auto known = since_.find(claim);
    return known == since_.end() ? QString() : known->second;
}

} // namespace rubble::app
