#include "check/reach.h"

#include <algorithm>
#include <map>
#include <numeric>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/leap_search.h"
#include "check/stations.h"
#include "check/takeover.h"

namespace rubble::check {

using motion::World;

namespace {

/// In the first and in the second pass.
constexpr Effort k_first{24, 5}, k_second{60, 18};
/// Ledges smaller than this get the first effort only, and those where nobody could put a foot none
/// (square metres).
constexpr double k_scrap_m2 = 0.02, k_foothold_m2 = 1e-3;

/// Adds what a round found; gives the ledges that are new.
std::vector<int> take(Reach& reach, std::vector<LeapSearch::Found> found, bool helped) {
    std::vector<int> fresh;
    for (LeapSearch::Found& one : found) {
        reach.tries += one.tries;
        for (const auto& link : one.doubtful) reach.doubtful[size_t(link->to)] = true;
        for (auto& [link, arrival] : one.proofs) {
            auto& place = reach.arrivals[size_t(link->to)];
            if (place) continue;
            arrival.helped |= helped;
            place = std::make_shared<const Arrival>(std::move(arrival));
            reach.links.push_back(link);
            fresh.push_back(link->to);
        }
    }
    return fresh;
}

/// Rounds of tries from the frontier until nothing new is found. `more` adds plans and effort.
void expand(Reach& reach, const LeapSearch& searcher, Stations& stations, std::vector<int> frontier,
            bool more, bool helped, const std::vector<int>& wanted, StillClosed& closed_still,
            const Cancel& cancel) {
    const Ground& ground = searcher.ground();
    const Effort effort = more ? k_second : k_first;
    std::vector<bool> in_frontier(ground.ledges.size(), false);
    while (!frontier.empty() && !cancel.requested()) {
        std::fill(in_frontier.begin(), in_frontier.end(), false);
        Heights heights;
        for (int ledge : frontier)
            in_frontier[size_t(ledge)] = true, heights.add(ground.ledges[size_t(ledge)]);
        std::vector<int> targets;
        for (int ledge : wanted) {
            const double least = more ? k_scrap_m2 : k_foothold_m2;
            if (!reach.tinted(ledge) && ground.ledges[size_t(ledge)].area_m2 >= least &&
                !closed_still.holds(ground, ledge))
                targets.push_back(ledge);
        }
        std::vector<LeapSearch::Found> found(targets.size());
        parallel_for(targets.size(), [&](size_t t) {
            if (cancel.requested()) return;
            found[t] = searcher.find({reach, stations}, targets[t], true, in_frontier, heights, effort, more);
        });
        frontier = take(reach, std::move(found), helped);
        for (int ledge : frontier) closed_still.add(ground, ledge, searcher.range_m());
    }
}

std::vector<int> reached_ledges(const Reach& reach) {
    std::vector<int> out;
    for (int i = 0; i < int(reach.arrivals.size()); ++i)
        if (reach.tinted(i)) out.push_back(i);
    return out;
}

/// Goes on from what is reached by links that another search found, in rounds: of all that lead to a ledge
/// the first that can be played from where its own ledge was reached.
void follow_links(Reach& reach, const LeapSearch& searcher, Stations& stations,
                  const std::vector<std::shared_ptr<const Link>>& links, const Cancel& cancel) {
    std::vector<std::vector<const std::shared_ptr<const Link>*>> from(searcher.ground().ledges.size());
    for (const auto& link : links) from[size_t(link->from)].push_back(&link);
    std::vector<int> frontier = reached_ledges(reach);
    while (!frontier.empty() && !cancel.requested()) {
        std::map<int, std::vector<const std::shared_ptr<const Link>*>> into; // ledges not reached yet
        for (const int ledge : frontier)
            for (const auto* link : from[size_t(ledge)])
                if (!reach.tinted((*link)->to)) into[(*link)->to].push_back(link);
        const std::vector<std::pair<int, std::vector<const std::shared_ptr<const Link>*>>> wanted(
            into.begin(), into.end());
        std::vector<std::shared_ptr<const Arrival>> found(wanted.size());
        parallel_for(wanted.size(), [&](size_t i) {
            for (const auto* link : wanted[i].second) {
                if (found[i] || cancel.requested()) return;
                const Arrival& before = *reach.arrivals[size_t((*link)->from)];
                if (auto arrival =
                        arrival_by(searcher.ground(), searcher.character(),
                                   stations.set_out(before, (*link)->from, (*link)->start), before, *link))
                    found[i] = std::make_shared<const Arrival>(std::move(*arrival));
            }
        });
        frontier.clear();
        for (size_t i = 0; i < wanted.size(); ++i) {
            if (!found[i]) continue;
            reach.arrivals[size_t(wanted[i].first)] = found[i];
            frontier.push_back(wanted[i].first);
        }
    }
}

void add_links_of_arrivals(Reach& reach) {
    for (const auto& arrival : reach.arrivals)
        if (arrival && arrival->link) reach.links.push_back(arrival->link);
}

/// What the easy plans reach from what is reached by now, then the harder ones, until neither finds more.
void go_on(Reach& reach, const LeapSearch& searcher, StillClosed& closed_still, const ReachOptions& options) {
    const Ground& ground = searcher.ground();
    Stations stations(ground, searcher.world(), searcher.character());
    std::vector<int> every(ground.ledges.size());
    std::iota(every.begin(), every.end(), 0);
    if (options.within) {
        follow_links(reach, searcher, stations, options.within->links, options.cancel);
        add_links_of_arrivals(reach);
        every = reached_ledges(*options.within);
    } else if (options.before) {
        // Behind a run that an edit broke most links still hold: what is reached again is played over them.
        const auto known = reach.links;
        follow_links(reach, searcher, stations, known, options.cancel);
    }
    std::vector<int> frontier = reached_ledges(reach), all;
    for (int ledge : frontier) closed_still.add(ground, ledge, searcher.range_m());
    while (!frontier.empty() && !options.cancel.requested()) {
        expand(reach, searcher, stations, frontier, false, false, every, closed_still, options.cancel);
        const size_t before = reach.links.size();
        all = reached_ledges(reach);
        expand(reach, searcher, stations, all, true, false, every, closed_still, options.cancel);
        frontier.clear();
        for (size_t i = before; i < reach.links.size(); ++i) frontier.push_back(reach.links[i]->to);
    }
    if (options.within)
        for (size_t i = 0; i < reach.doubtful.size(); ++i)
            reach.doubtful[i] = reach.doubtful[i] || options.within->doubtful[i];
    for (int ledge : reached_ledges(reach)) reach.doubtful[size_t(ledge)] = false;
    reach.complete = !options.cancel.requested();
}

} // namespace

std::vector<std::shared_ptr<const Arrival>> Reach::chain(Node node) const {
    std::vector<std::shared_ptr<const Arrival>> out;
    for (; tinted(node); node = out.back()->from) out.push_back(arrivals[index(node)]);
    std::reverse(out.begin(), out.end());
    return out;
}

Reach search_reach(const LeapSearch& searcher, const std::vector<Vec3>& starts, const ReachOptions& options) {
    const Ground& ground = searcher.ground();
    Reach reach;
    reach.arrivals.resize(ground.ledges.size());
    reach.doubtful.assign(ground.ledges.size(), false);
    StillClosed closed_still;
    if (options.before) {
        const Reach& before = options.before->reach;
        take_over_runs(ground, searcher.character(), starts, *options.before, reach);
        closed_still = still_closed(
            ground, *options.before, searcher.range_m(),
            [&](int was) { return !before.tinted(was) && !before.doubtful[size_t(was)]; },
            [&](int was) { return before.tinted(was); });
    }
    for (const Vec3& start : starts) {
        auto arrival = arrival_at_start(searcher.world(), searcher.character(), start);
        const int ledge = arrival ? ground.ledge_at(arrival->rest.body.at, 0.05) : -1;
        if (ledge >= 0 && !reach.tinted(ledge))
            reach.arrivals[size_t(ledge)] = std::make_shared<const Arrival>(std::move(*arrival));
    }

    go_on(reach, searcher, closed_still, options);
    return reach;
}

Reach search_reach(const LeapSearch& searcher, Arrival begin, const ReachOptions& options) {
    const Ground& ground = searcher.ground();
    Reach reach;
    reach.arrivals.resize(ground.ledges.size());
    reach.doubtful.assign(ground.ledges.size(), false);
    const int ledge = ground.ledge_at(begin.rest.body.at, tolerance::feet_m);
    if (ledge >= 0) reach.arrivals[size_t(ledge)] = std::make_shared<const Arrival>(std::move(begin));
    StillClosed closed_still;
    go_on(reach, searcher, closed_still, options);
    return reach;
}

Reach extended(Reach reach, const Ground& ground, const World& world, const Character& character,
               const ReachOptions& options) {
    if (options.help_for.empty() || character.late_jump_grace_s <= 0 || character.jump_height_m <= 0)
        return reach;
    const LeapSearch late(ground, world, character, true);
    std::vector<int> wanted = options.help_for; // each once: a round looks at each in a thread of its own
    std::sort(wanted.begin(), wanted.end());
    wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
    StillClosed none;
    Stations stations(ground, world, late.character());
    expand(reach, late, stations, reached_ledges(reach), false, true, wanted, none, options.cancel);
    return reach;
}

std::vector<bool> search_return(const LeapSearch& searcher, Reach& reach, const std::vector<int>& targets,
                                const ReachOptions& options) {
    const Ground& ground = searcher.ground();
    Stations stations(ground, searcher.world(), searcher.character());
    std::vector<bool> good(ground.ledges.size(), false);
    std::vector<bool> fresh(ground.ledges.size(), false);
    bool any = false;
    for (int ledge : targets)
        if (ledge >= 0) good[size_t(ledge)] = fresh[size_t(ledge)] = any = true;
    StillClosed closed_still;
    if (options.before) {
        const ReachBefore& before = *options.before;
        closed_still = still_closed(
            ground, before, searcher.range_m(),
            [&](int was) { return before.reach.tinted(was) && !before.returns[size_t(was)]; },
            [&](int was) { return bool(before.returns[size_t(was)]); });
    }
    // Links that are proven already count for nothing.
    auto take_known = [&] {
        for (bool changed = true; changed;) {
            changed = false;
            for (const auto& link : reach.links)
                if (good[size_t(link->to)] && !good[size_t(link->from)])
                    good[size_t(link->from)] = fresh[size_t(link->from)] = changed = true;
        }
    };
    for (const bool more : {false, true}) {
        if (more) fresh = good;
        while (any && !options.cancel.requested()) {
            take_known();
            for (int ledge = 0; ledge < int(good.size()); ++ledge)
                if (good[size_t(ledge)]) closed_still.add(ground, ledge, searcher.range_m());
            std::vector<int> open;
            for (int ledge = 0; ledge < int(ground.ledges.size()); ++ledge)
                if (reach.tinted(ledge) && !good[size_t(ledge)] && !closed_still.holds(ground, ledge))
                    open.push_back(ledge);
            Heights heights;
            for (size_t ledge = 0; ledge < fresh.size(); ++ledge)
                if (fresh[ledge]) heights.add(ground.ledges[ledge]);
            std::vector<LeapSearch::Found> found(open.size());
            parallel_for(open.size(), [&](size_t i) {
                found[i] = searcher.find({reach, stations}, open[i], false, fresh, heights,
                                         more ? k_second : k_first, more);
            });
            std::fill(fresh.begin(), fresh.end(), false);
            bool changed = false;
            for (size_t i = 0; i < open.size(); ++i) {
                reach.tries += found[i].tries;
                if (!found[i].wanted) continue;
                good[size_t(open[i])] = fresh[size_t(open[i])] = changed = true;
                reach.links.push_back(found[i].way_out);
            }
            if (!changed) break;
        }
    }
    for (int ledge = 0; ledge < int(good.size()); ++ledge)
        if (!reach.tinted(ledge)) good[size_t(ledge)] = false;
    return good;
}

} // namespace rubble::check
