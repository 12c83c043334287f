#include "study/players.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>

#include "base/parallel.h"
#include "study/player.h"

namespace rubble::study {

Interval wilson(int successes, int trials) {
    if (trials <= 0) return {};
    constexpr double k_z = 1.959963984540054; // of 95 %
    const double n = trials, p = successes / n, z2 = k_z * k_z;
    const double middle = (p + z2 / (2 * n)) / (1 + z2 / n);
    const double half = k_z * std::sqrt(p * (1 - p) / n + z2 / (4 * n * n)) / (1 + z2 / n);
    return {std::max(middle - half, 0.0), std::min(middle + half, 1.0)};
}

void tally(Crowd& crowd) {
    crowd.arrived = 0, crowd.times_s.clear();
    for (const PlayerRun& run : crowd.runs)
        if (run.arrived) ++crowd.arrived, crowd.times_s.push_back(run.seconds);
    std::sort(crowd.times_s.begin(), crowd.times_s.end());
    const Interval interval = wilson(crowd.arrived, int(crowd.runs.size()));
    crowd.share = crowd.runs.empty() ? 0 : double(crowd.arrived) / double(crowd.runs.size());
    crowd.low = interval.low, crowd.high = interval.high;
}

Result<Crowd> run_players(const Level& level, const check::CheckResult& checked, const ItemId& from,
                          const ItemId& to, const PlayersOptions& options) {
    const auto route = Route::between(level, checked, from, to, options.cancel);
    if (!route) return tl::unexpected(route.error());
    Crowd crowd;
    crowd.route_s = (*route)->seconds();
    crowd.runs.resize(size_t(std::max(options.runs, 0)));
    std::atomic<size_t> done = 0;
    parallel_for(crowd.runs.size(), [&](size_t i) {
        if (options.cancel.requested()) return;
        crowd.runs[i] = player_run(**route, options.skill, options.first_seed + i, int(i) < options.tracks,
                                   options.cancel);
        if (options.progress) options.progress(double(++done) / double(crowd.runs.size()));
    });
    crowd.complete = !options.cancel.requested();
    std::map<int, Crowd::Cost> costs;
    for (const PlayerRun& run : crowd.runs) {
        for (const Miss& miss : run.misses) {
            Crowd::Cost& cost = costs[miss.link];
            ++cost.misses, cost.deaths += miss.died, cost.lost_s += miss.lost_s;
        }
    }
    tally(crowd);
    // Links are counted anew, so that only those that were missed are kept.
    std::map<int, int> number;
    for (auto& [link, cost] : costs) {
        cost.link = link < 0 ? -1 : int(crowd.links.size());
        number[link] = cost.link;
        if (link >= 0) crowd.links.push_back((*route)->links()[size_t(link)]);
        crowd.costs.push_back(cost);
    }
    for (PlayerRun& run : crowd.runs)
        for (Miss& miss : run.misses) miss.link = number[miss.link];
    std::stable_sort(crowd.costs.begin(), crowd.costs.end(),
                     [](const auto& a, const auto& b) { return a.lost_s > b.lost_s; });
    return crowd;
}

namespace {

/// How many players are asked at first, and at most while their interval holds the share that is claimed.
constexpr int k_players = 200, k_most_players = 1000;

check::ClaimResult judged_share(const Level& level, const Claim& claim, const check::CheckResult& checked,
                                const Skill& skill, const Cancel& cancel) {
    check::ClaimResult result;
    result.id = claim.id, result.question.claim = claim;
    PlayersOptions options;
    options.skill = skill, options.cancel = cancel;
    const double wanted = claim.value / 100;
    for (options.runs = k_players;; options.runs = k_most_players) {
        const auto crowd = run_players(level, checked, claim.from, claim.to, options);
        if (!crowd) {
            result.state = crowd.error().code == "players.unreached" ? check::ClaimState::fails
                                                                     : check::ClaimState::undecided;
            result.reason = {{"Nobody gets from %1 to %2.", {claim.from, claim.to}}};
            return result;
        }
        if (!crowd->complete) return result;
        const bool unclear = crowd->low < wanted && crowd->high >= wanted;
        if (unclear && options.runs < k_most_players) continue;
        result.state = crowd->share >= wanted ? check::ClaimState::holds : check::ClaimState::fails;
        if (result.state == check::ClaimState::fails)
            result.reason = {{"Of %1 players (%2) %3 arrive; %4 % were claimed.",
                              {std::to_string(options.runs), skill.name, std::to_string(crowd->arrived),
                               std::to_string(std::lround(claim.value))}}};
        return result;
    }
}

} // namespace

void judge_shares(const Project& project, const Level& level, check::CheckResult& checked,
                  const Cancel& cancel) {
    const std::vector<Skill> skills = skills_of(project);
    for (const Claim& claim : level.claims) {
        if (claim.kind != Claim::Kind::share || cancel.requested()) continue;
        const auto skill = std::find_if(skills.begin(), skills.end(),
                                        [&](const Skill& one) { return one.name == claim.skill; });
        for (check::ClaimResult& judged : checked.claims) {
            if (judged.id != claim.id) continue;
            if (skill == skills.end())
                judged.reason = {{"The project has no skill \"%1\".", {claim.skill}}};
            else
                judged = judged_share(level, claim, checked, *skill, cancel);
        }
    }
}

} // namespace rubble::study
