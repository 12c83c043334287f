#pragma once

#include <optional>
#include <vector>

#include "check/check.h"

namespace rubble::study {

/// What is otherwise in one check than in another: of a level before and after an edit, or for other metrics.
/// Same things are told by their ids, spans and findings by where they are.
struct Comparison {
    /// One that is in only one of both has a state in only that.
    struct ClaimChange {
        ClaimId id;
        std::optional<check::ClaimState> was, now;
    };
    struct PlaceChange {
        ItemId item;
        std::optional<check::Reached> was, now;
        double was_s = 0, now_s = 0; ///< of the run, where there is one
    };
    struct SpanChange {
        std::optional<check::Span> was, now;
    };
    struct FindingChange {
        check::Finding finding;
        bool is_new = false; ///< else it is gone
    };
    std::vector<ClaimChange> claims;
    std::vector<PlaceChange> places;
    std::vector<SpanChange> spans; ///< that have another grade, are new or gone
    std::vector<FindingChange> findings;
    double reached_was_m2 = 0, reached_now_m2 = 0; ///< how much ground one gets to

    /// Whether something is worse: a claim that held does not, a place that was reached is not, a blocker is
    /// new.
    bool got_worse() const;
    bool empty() const { return claims.empty() && places.empty() && spans.empty() && findings.empty(); }
};

/// See Comparison.
Comparison comparison_of(const check::CheckResult& was, const check::CheckResult& now);

/// How much ground one gets to in a check (square metres).
double reached_m2(const check::CheckResult& result);

} // namespace rubble::study
