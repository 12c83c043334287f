#include "suggest/suggest.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "level/element_kinds.h"

namespace rubble::suggest {

namespace {

/// So many of a kind are tried for each that is wanted: a try is a check.
constexpr size_t k_tries_each = 3;
/// Two of a kind stand at least this far apart (metres).
constexpr double k_apart_m = 3;

int worse(const check::CheckResult& result) {
    return int(std::count_if(result.findings.begin(), result.findings.end(), [](const check::Finding& one) {
        return one.severity != check::Severity::remark;
    }));
}

/// How much ground is reached (square metres).
double reached_m2(const check::CheckResult& result) {
    double sum = 0;
    for (int ledge = 0; ledge < int(result.ground->ledges.size()); ++ledge)
        if (result.reach->tinted(ledge)) sum += result.ground->ledges[size_t(ledge)].area_m2;
    return sum;
}

/// Whether a level with a candidate in it is as good as before.
bool proves_well(const Project& project, const Level& level, const check::CheckResult& before,
                 const Candidate& candidate, const Cancel& cancel) {
    check::CheckOptions options;
    options.explain = options.mends = false, options.cancel = cancel;
    const check::CheckResult now = check::check_level(project, with(level, 0, candidate), options);
    if (!now.complete || worse(now) > worse(before)) return false;
    for (const check::ClaimResult& was : before.claims) {
        if (was.state != check::ClaimState::holds) continue;
        const bool holds = std::any_of(now.claims.begin(), now.claims.end(), [&](const auto& one) {
            return one.id == was.id && one.state == check::ClaimState::holds;
        });
        if (!holds) return false;
    }
    // A deck leads where nobody got before: its own top is not enough.
    if (candidate.kind == "deck") {
        const Vec3 size = size_of(*candidate.items.front().element());
        if (reached_m2(now) < reached_m2(before) + size.x * size.y + 1) return false;
    }
    // What is to be had is had.
    for (const check::Place& place : now.places)
        for (const Item& item : candidate.items)
            if (place.item == item.id && item.element() && role_of(*item.element()) == Role::thing &&
                place.reached != check::Reached::yes)
                return false;
    return true;
}

/// How many of each kind are wanted: by the squares of how much they are liked, so that what is hardly liked
/// gives way soon; largest remainders.
std::map<std::string, int> shares(const Project& project,
                                  const std::map<std::string, std::vector<Candidate>>& by_kind, int places) {
    double sum = 0;
    std::map<std::string, double> weight;
    for (const auto& [kind, candidates] : by_kind) {
        if (candidates.empty()) continue;
        weight[kind] = std::pow(liking(project, kind), 2);
        sum += weight[kind];
    }
    std::map<std::string, int> out;
    std::vector<std::pair<double, std::string>> left;
    int given = 0;
    for (const auto& [kind, one] : weight) {
        const double share = places * one / sum;
        out[kind] = int(share), given += int(share);
        left.push_back({share - std::floor(share), kind});
    }
    std::sort(left.begin(), left.end(), std::greater<>());
    for (size_t i = 0; i < left.size() && given < places; ++i, ++given) ++out[left[i].second];
    return out;
}

} // namespace

std::string name_of(const Level& level, const Suggestion& suggestion) {
    const Vec3 at = place_of(level, suggestion);
    const auto cm = [](double m) { return std::to_string(std::llround(m * 10)); };
    return suggestion.kind + " " + cm(at.x) + " " + cm(at.y) + " " + cm(at.z);
}

Level with(const Level& level, int layer, const Suggestion& suggestion) {
    check::Mend cells;
    cells.cells = suggestion.cells;
    Level out = check::mended(level, cells);
    for (Item item : suggestion.items) {
        if (find_item(out, item.id)) item.id = edit::fresh_id(out, "a");
        out = edit::with_item(out, layer, std::move(item));
    }
    return out;
}

std::vector<Suggestion> suggested(const Project& project, const Level& level,
                                  const std::shared_ptr<const check::CheckResult>& result,
                                  const SuggestOptions& options) {
    std::vector<Suggestion> out;
    if (!result || !result->ground || !result->reach || result->starts.empty() || level.layers.empty())
        return out;
    std::map<std::string, std::vector<Candidate>> by_kind;
    for (const auto& find : {pick_ups, checkpoints, foes, ladders, decks, steps})
        for (Candidate& one : find(level, *result))
            if (!options.not_again.contains(name_of(level, one))) by_kind[one.kind].push_back(std::move(one));
    for (auto& [kind, candidates] : by_kind)
        std::stable_sort(candidates.begin(), candidates.end(),
                         [](const auto& a, const auto& b) { return a.promise > b.promise; });
    const auto take = [&](const std::string& kind, int wanted) {
        size_t tried = 0;
        auto& candidates = by_kind[kind];
        for (auto one = candidates.begin(); one != candidates.end() && wanted > 0;) {
            if (options.cancel.requested()) return;
            const bool near = std::any_of(out.begin(), out.end(), [&](const Suggestion& other) {
                return glm::length(place_of(level, other) - place_of(level, *one)) < k_apart_m;
            });
            if (near) {
                ++one;
                continue;
            }
            if (++tried > k_tries_each * size_t(most_suggestions)) return;
            if (proves_well(project, level, *result, *one, options.cancel)) out.push_back(*one), --wanted;
            one = candidates.erase(one);
            if (options.progress) options.progress(double(out.size()) / most_suggestions);
        }
    };
    for (const auto& [kind, wanted] : shares(project, by_kind, most_suggestions)) take(kind, wanted);
    // What some kinds could not fill others do, the best liked first.
    std::vector<std::string> kinds;
    for (const auto& [kind, candidates] : by_kind) kinds.push_back(kind);
    std::stable_sort(kinds.begin(), kinds.end(),
                     [&](const auto& a, const auto& b) { return liking(project, a) > liking(project, b); });
    for (const std::string& kind : kinds) take(kind, most_suggestions - int(out.size()));
    return out;
}

} // namespace rubble::suggest
