#include "study/comparison.h"

#include <algorithm>

namespace rubble::study {

using check::CheckResult;
using check::Span;

namespace {

/// Two spans are the same when both their ends are no further apart than this; findings when they are
/// (metres).
constexpr double k_same_m = 0.3;

bool same_span(const Span& a, const Span& b) {
    return a.kind == b.kind && glm::length(a.from - b.from) < k_same_m && glm::length(a.to - b.to) < k_same_m;
}

bool same_finding(const check::Finding& a, const check::Finding& b) {
    return a.rule == b.rule && a.items == b.items && glm::length(a.at - b.at) < k_same_m;
}

/// Pairs the things of two lists, each with one like it, and calls `visit(was or null, now or null)`.
template <class T, class Same, class Visit>
void pair_up(const std::vector<T>& was, const std::vector<T>& now, Same same, Visit visit) {
    std::vector<bool> taken(was.size(), false);
    for (const T& one : now) {
        const T* before = nullptr;
        for (size_t i = 0; i < was.size() && !before; ++i)
            if (!taken[i] && same(was[i], one)) taken[i] = true, before = &was[i];
        visit(before, &one);
    }
    for (size_t i = 0; i < was.size(); ++i)
        if (!taken[i]) visit(&was[i], nullptr);
}

} // namespace

double reached_m2(const CheckResult& result) {
    double sum = 0;
    for (int ledge = 0; result.reach && ledge < int(result.ground->ledges.size()); ++ledge)
        if (result.reach->tinted(ledge)) sum += result.ground->ledges[size_t(ledge)].area_m2;
    return sum;
}

Comparison comparison_of(const CheckResult& was, const CheckResult& now) {
    Comparison out;
    out.reached_was_m2 = reached_m2(was), out.reached_now_m2 = reached_m2(now);
    pair_up(
        was.claims, now.claims, [](const auto& a, const auto& b) { return a.id == b.id; },
        [&](const check::ClaimResult* before, const check::ClaimResult* after) {
            if (before && after && before->state == after->state) return;
            Comparison::ClaimChange change{(after ? after : before)->id, {}, {}};
            if (before) change.was = before->state;
            if (after) change.now = after->state;
            out.claims.push_back(std::move(change));
        });
    pair_up(
        was.places, now.places, [](const auto& a, const auto& b) { return a.item == b.item; },
        [&](const check::Place* before, const check::Place* after) {
            if (before && after && before->reached == after->reached) return;
            Comparison::PlaceChange change{(after ? after : before)->item, {}, {}, 0, 0};
            if (before) change.was = before->reached, change.was_s = before->time_s;
            if (after) change.now = after->reached, change.now_s = after->time_s;
            out.places.push_back(std::move(change));
        });
    pair_up(was.spans, now.spans, same_span, [&](const Span* before, const Span* after) {
        if (before && after && before->grade == after->grade) return;
        Comparison::SpanChange change;
        if (before) change.was = *before;
        if (after) change.now = *after;
        out.spans.push_back(std::move(change));
    });
    pair_up(was.findings, now.findings, same_finding,
            [&](const check::Finding* before, const check::Finding* after) {
                if (!before || !after) out.findings.push_back({*(after ? after : before), after != nullptr});
            });
    return out;
}

bool Comparison::got_worse() const {
    const auto lost_claim = [](const ClaimChange& one) {
        return one.was == check::ClaimState::holds && one.now && one.now != check::ClaimState::holds;
    };
    const auto lost_place = [](const PlaceChange& one) {
        return one.was == check::Reached::yes && one.now && one.now != check::Reached::yes;
    };
    return std::any_of(claims.begin(), claims.end(), lost_claim) ||
           std::any_of(places.begin(), places.end(), lost_place) ||
           std::any_of(findings.begin(), findings.end(), [](const FindingChange& one) {
               return one.is_new && one.finding.severity == check::Severity::blocker;
           });
}

} // namespace rubble::study
