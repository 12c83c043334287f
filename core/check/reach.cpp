#include "check/reach.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/flight.h"

namespace rubble::check {

using motion::World;

namespace {

/// Fragment pairs looked at for one ledge, and leaps simulated for it, in the first and the second pass.
struct Effort {
    size_t pairs, tries;
};
constexpr Effort k_first{24, 5}, k_second{60, 18};
/// Ledges smaller than this get the first effort only, and those where nobody could put a foot none
/// (square metres).
constexpr double k_scrap_m2 = 0.02, k_foothold_m2 = 1e-3;
/// Ledges of more fragments are looked around piece by piece.
constexpr size_t k_wide_ledge = 64;
/// Plans whose take-off and direction are closer than this to one that failed are not tried (metres).
constexpr double k_alike_m = 0.35;

Character without_graces(Character c) {
    c.late_jump_grace_s = c.early_press_s = 0;
    return c;
}

struct Pair {
    int from, to;
    double apart;
};

/// The nearest of the pairs that were added.
class NearestPairs {
public:
    explicit NearestPairs(size_t most) : most_(most) {}

    /// Pairs farther apart than this change nothing.
    double farthest() const {
        return heap_.size() < most_ ? std::numeric_limits<double>::infinity() : heap_.front().apart;
    }
    void add(const Pair& pair) {
        heap_.push_back(pair);
        std::push_heap(heap_.begin(), heap_.end(), nearer);
        if (heap_.size() <= most_) return;
        std::pop_heap(heap_.begin(), heap_.end(), nearer);
        heap_.pop_back();
    }
    std::vector<Pair> sorted() {
        std::sort_heap(heap_.begin(), heap_.end(), nearer);
        return std::move(heap_);
    }

private:
    static bool nearer(const Pair& a, const Pair& b) {
        if (a.apart != b.apart) return a.apart < b.apart;
        return std::pair(a.from, a.to) < std::pair(b.from, b.to);
    }
    size_t most_;
    std::vector<Pair> heap_; ///< the farthest first
};

class Searcher {
public:
    Searcher(const Ground& ground, const World& world, const Character& c) : g_(ground), w_(world), c_(c) {
        const double deepest = std::max(c.survived_fall_m, 0.0);
        double time = fall_time(c, deepest);
        if (const auto jump = flight_time(c, -deepest)) time = std::max(time, *jump);
        range_ = c.run_speed_mps * (time + c.late_jump_grace_s) + 0.1;
        around_.resize(ground.ledges.size());
    }

    /// Farthest that a way through the air can lead, in plan.
    double range_m() const { return range_; }

    /// Heights of the feet on some ledges.
    struct Heights {
        double low = std::numeric_limits<double>::infinity(), high = -low;
        void add(const Ledge& ledge) {
            low = std::min(low, ledge.box.low.z), high = std::max(high, ledge.box.high.z);
        }
    };

    /// What was found for a ledge: links with the arrivals that prove them.
    struct Found {
        std::vector<std::pair<std::shared_ptr<const Link>, Arrival>> proofs; ///< the wanted one comes last
        std::vector<std::shared_ptr<const Link>> doubtful; ///< links that could not be played in their place
        std::shared_ptr<const Link> way_out;
        bool wanted = false;
        size_t tries = 0;
    };

    /// Looks for a link between `ledge` and some ledge for which `other` says yes; into the ledge, or out of
    /// it. The heights are those of the others.
    template <class Other>
    Found find(const Reach& reach, int ledge, bool into, Other other, const Heights& heights, Effort effort,
               bool more) const {
        Found found;
        const Box3& own = g_.ledges[size_t(ledge)].box;
        const double up = highest_rise(c_) + tolerance::limit_m;
        if ((into ? own.low.z - heights.high : heights.low - own.high.z) > up) return found;
        std::vector<LeapPlan> plans;
        for (const Pair& pair : near_pairs(ledge, into, other, effort.pairs)) {
            const double least_rise =
                g_.fragments[size_t(pair.to)].lowest_m - g_.fragments[size_t(pair.from)].highest_m;
            if (flight_allows(c_, pair.apart, least_rise))
                plan_leaps(g_, w_, c_, pair.from, pair.to, more, plans);
        }
        std::stable_sort(plans.begin(), plans.end(), [](auto& a, auto& b) { return a.ease > b.ease; });
        std::vector<const LeapPlan*> tried;
        for (const LeapPlan& plan : plans) {
            if (tried.size() >= effort.tries || found.wanted) break;
            const bool alike = std::any_of(tried.begin(), tried.end(), [&](const LeapPlan* t) {
                return glm::length(t->take_off - plan.take_off) < k_alike_m &&
                       glm::length(t->landing - plan.landing) < k_alike_m;
            });
            if (alike) continue;
            tried.push_back(&plan);
            ++found.tries;
            auto leap = try_leap(g_, w_, c_, plan);
            if (!leap) continue;
            const bool wanted = into ? leap->to == ledge : other(leap->to);
            // Wherever else it came to rest is reached as well.
            if (!wanted && (!into || reach.tinted(leap->to))) continue;
            const auto link = std::make_shared<const Link>(std::move(*leap));
            if (!into) { // a way out needs no run to it: it begins at rest on its own ledge
                found.way_out = link;
                found.wanted = true;
            } else if (auto arrival = arrival_by(g_, w_, c_, *reach.arrivals[size_t(link->from)], link)) {
                found.proofs.emplace_back(link, std::move(*arrival));
                found.wanted = wanted;
            } else {
                found.doubtful.push_back(link);
            }
        }
        return found;
    }

private:
    /// The nearest pairs of a fragment of the ledge with one of the others, by the distance of their boxes.
    template <class Other>
    std::vector<Pair> near_pairs(int ledge, bool into, Other other, size_t most) const {
        NearestPairs nearest(most);
        const Ledge& l = g_.ledges[size_t(ledge)];
        if (l.fragments.size() > k_wide_ledge) {
            for (int own : l.fragments)
                g_.for_near(g_.fragments[size_t(own)].box.grown(range_), [&](int near) {
                    if (other(g_.fragments[size_t(near)].ledge)) add_pair(own, near, into, nearest);
                });
        } else {
            for (const Neighbour& neighbour : look_around(ledge)) {
                // No fragment of the ledge is nearer than its box, and the rest are farther still.
                if (neighbour.apart > nearest.farthest()) break;
                if (other(neighbour.ledge))
                    for (int own : l.fragments) add_pair(own, neighbour.fragment, into, nearest);
            }
        }
        return nearest.sorted();
    }

    struct Neighbour {
        double apart; ///< of its box from the ledge's, in plan
        int ledge, fragment;
    };

    static double apart(const Box2& a, const Box2& b) {
        return glm::length(glm::max(glm::max(a.low - b.high, b.low - a.high), Vec2(0)));
    }

    /// The fragments of other ledges within range of a small ledge, nearest first, looked for once. Not from
    /// two threads for one ledge.
    const std::vector<Neighbour>& look_around(int ledge) const {
        auto& known = around_[size_t(ledge)];
        if (known) return *known;
        known.emplace();
        const Ledge& l = g_.ledges[size_t(ledge)];
        g_.for_near(flat(l.box).grown(range_), [&](int near) {
            const Fragment& n = g_.fragments[size_t(near)];
            if (n.ledge != ledge && (within_heights(n.lowest_m, n.highest_m, l.box.low.z, l.box.high.z) ||
                                     within_heights(l.box.low.z, l.box.high.z, n.lowest_m, n.highest_m)))
                known->push_back({apart(flat(l.box), n.box), n.ledge, near});
        });
        std::sort(known->begin(), known->end(), [](const Neighbour& a, const Neighbour& b) {
            return a.apart != b.apart ? a.apart < b.apart : a.fragment < b.fragment;
        });
        return *known;
    }

    /// Whether some way between these heights is neither above the apex nor a fatal fall.
    bool within_heights(double from_low, double from_high, double to_low, double to_high) const {
        const double up = highest_rise(c_) + tolerance::limit_m,
                     down = c_.survived_fall_m + tolerance::limit_m;
        return to_low - from_high <= up && to_high - from_low >= -down;
    }

    void add_pair(int own, int near, bool into, NearestPairs& nearest) const {
        const Fragment &f = g_.fragments[size_t(own)], &n = g_.fragments[size_t(near)];
        if (n.ledge == f.ledge) return;
        const double distance = apart(f.box, n.box);
        if (distance > std::min(range_, nearest.farthest())) return;
        const Fragment &from = into ? n : f, &to = into ? f : n;
        if (!within_heights(from.lowest_m, from.highest_m, to.lowest_m, to.highest_m)) return;
        if (from.low && to.lowest_m >= from.highest_m) return; // nobody jumps crouched
        nearest.add({into ? near : own, into ? own : near, distance});
    }

    const Ground& g_;
    const World& w_;
    const Character& c_;
    double range_ = 0;
    mutable std::vector<std::optional<std::vector<Neighbour>>> around_; ///< as far as it was asked for
};

/// What is known from before an edit: ledges to which nothing led, as long as nothing new comes near them.
struct Quiet {
    std::vector<bool> ledges; ///< empty: nothing is known
    std::vector<bool> heard;  ///< fragments from which, before, one could have come already
    std::vector<Box2> loud;   ///< what is new, grown by the range

    bool holds(const Ground& ground, int ledge) const {
        if (ledges.empty() || !ledges[size_t(ledge)]) return false;
        const Box2 box = flat(ground.ledges[size_t(ledge)].box);
        return std::none_of(loud.begin(), loud.end(), [&](const Box2& b) { return b.touches(box); });
    }
    /// From now on one can come from this ledge.
    void add(const Ground& ground, int ledge, double range) {
        if (ledges.empty()) return;
        for (int f : ground.ledges[size_t(ledge)].fragments) {
            if (heard[size_t(f)]) continue;
            heard[size_t(f)] = true;
            loud.push_back(ground.fragments[size_t(f)].box.grown(range));
        }
    }
};

/// For a ledge the one before an edit that was just the same, with nothing changed within range; -1: none.
int same_before(const Ground& ground, const ReachBefore& before, int ledge, double range) {
    const Ledge& now = ground.ledges[size_t(ledge)];
    const int then = ground.before[size_t(now.fragments[0])];
    if (then < 0 || before.change.touches(flat(now.box).grown(range))) return -1;
    const int was = before.ground.fragments[size_t(then)].ledge;
    const bool same = before.ground.ledges[size_t(was)].fragments.size() == now.fragments.size() &&
                      std::all_of(now.fragments.begin(), now.fragments.end(), [&](int f) {
                          const int g = ground.before[size_t(f)];
                          return g >= 0 && before.ground.fragments[size_t(g)].ledge == was;
                      });
    return same ? was : -1;
}

/// The ledges just the same of which `closed(ledge before)` said that nothing leads there, with those of
/// which `open(ledge before)` said that one can come from them.
template <class Closed, class Open>
Quiet quiet_where(const Ground& ground, const ReachBefore& before, double range, Closed closed, Open open) {
    Quiet quiet;
    for (int i = 0; i < int(ground.ledges.size()); ++i) {
        const int was = same_before(ground, before, i, range);
        quiet.ledges.push_back(was >= 0 && closed(was));
    }
    for (int f : ground.before)
        quiet.heard.push_back(f >= 0 && open(before.ground.fragments[size_t(f)].ledge));
    return quiet;
}

/// Takes over the runs of a search before an edit that no change comes near, each with those before it.
class Successor {
public:
    Successor(const Ground& ground, const Character& c, const std::vector<Vec3>& starts,
              const ReachBefore& before, Reach& reach)
        : ground_(ground),
          c_(c),
          starts_(starts),
          before_(before),
          reach_(reach) {}

    void run() {
        now_.assign(before_.reach.arrivals.size(), k_unknown);
        for (int ledge = 0; ledge < int(now_.size()); ++ledge) take_over(ledge);
        for (const auto& link : before_.reach.links)
            if (!reach_.tinted(now_[size_t(link->to)]) ||
                before_.reach.arrivals[size_t(link->to)]->link != link)
                take_over(*link);
    }

private:
    static constexpr int k_unknown = -2, k_gone = -1;

    /// The ledge of now that the run to a ledge of then leads to; `k_gone` where it cannot be taken over.
    int take_over(int ledge) {
        int& now = now_[size_t(ledge)];
        if (now != k_unknown) return now;
        now = k_gone;
        const auto& arrival = before_.reach.arrivals[size_t(ledge)];
        if (!arrival || arrival->helped || !untouched(arrival->visited)) return now;
        const bool begins = !arrival->link;
        if (begins && std::find(starts_.begin(), starts_.end(), arrival->run.start) == starts_.end())
            return now;
        const int from = begins ? -1 : take_over(arrival->from);
        if (!begins && from < 0) return now;
        const int to = ground_.ledge_at(arrival->rest.at, 0.05);
        if (to < 0 || reach_.tinted(to)) return now;
        auto taken = std::make_shared<Arrival>(*arrival);
        taken->from = from;
        if (!begins && !(taken->link = add(*arrival->link, from, to))) return now;
        reach_.arrivals[size_t(to)] = taken;
        return now = to;
    }

    /// A link that is no ledge's arrival still counts for ways back.
    void take_over(const Link& link) {
        if (untouched(link.visited))
            add(link, ground_.ledge_at(link.start, 0.05), ground_.ledge_at(link.rest, 0.05));
    }

    std::shared_ptr<const Link> add(const Link& before, int from, int to) {
        if (from < 0 || to < 0 || from == to) return nullptr;
        auto link = std::make_shared<Link>(before);
        link->from = from, link->to = to;
        reach_.links.push_back(link);
        return link;
    }

    /// Whether no change comes near a run: it feels what the body touches and what a step may lead onto.
    bool untouched(const motion::Track& visited) const {
        return std::none_of(visited.boxes.begin(), visited.boxes.end(), [&](const Box2& box) {
            return before_.change.touches(box.grown(c_.radius_m + 0.2));
        });
    }

    const Ground& ground_;
    const Character& c_;
    const std::vector<Vec3>& starts_;
    const ReachBefore& before_;
    Reach& reach_;
    std::vector<int> now_;
};

/// Adds what a round found; gives the ledges that are new.
std::vector<int> take(Reach& reach, std::vector<Searcher::Found> found, bool helped) {
    std::vector<int> fresh;
    for (Searcher::Found& one : found) {
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
void expand(Reach& reach, const Ground& ground, const Searcher& searcher, std::vector<int> frontier,
            bool more, bool helped, const std::vector<int>& wanted, Quiet& quiet, const Cancel& cancel) {
    const Effort effort = more ? k_second : k_first;
    std::vector<bool> in_frontier(ground.ledges.size(), false);
    while (!frontier.empty() && !cancel.requested()) {
        std::fill(in_frontier.begin(), in_frontier.end(), false);
        Searcher::Heights heights;
        for (int ledge : frontier)
            in_frontier[size_t(ledge)] = true, heights.add(ground.ledges[size_t(ledge)]);
        std::vector<int> targets;
        for (int ledge : wanted) {
            const double least = more ? k_scrap_m2 : k_foothold_m2;
            if (!reach.tinted(ledge) && ground.ledges[size_t(ledge)].area_m2 >= least &&
                !quiet.holds(ground, ledge))
                targets.push_back(ledge);
        }
        std::vector<Searcher::Found> found(targets.size());
        parallel_for(targets.size(), [&](size_t t) {
            if (cancel.requested()) return;
            found[t] = searcher.find(
                reach, targets[t], true, [&](int ledge) { return in_frontier[size_t(ledge)]; }, heights,
                effort, more);
        });
        frontier = take(reach, std::move(found), helped);
        for (int ledge : frontier) quiet.add(ground, ledge, searcher.range_m());
    }
}

std::vector<int> reached_ledges(const Reach& reach) {
    std::vector<int> out;
    for (int i = 0; i < int(reach.arrivals.size()); ++i)
        if (reach.tinted(i)) out.push_back(i);
    return out;
}

} // namespace

std::vector<std::shared_ptr<const Arrival>> Reach::chain(int ledge) const {
    std::vector<std::shared_ptr<const Arrival>> out;
    for (; tinted(ledge); ledge = out.back()->from) out.push_back(arrivals[size_t(ledge)]);
    std::reverse(out.begin(), out.end());
    return out;
}

Reach search_reach(const Ground& ground, const World& world, const Character& character,
                   const std::vector<Vec3>& starts, const ReachOptions& options) {
    Reach reach;
    reach.arrivals.resize(ground.ledges.size());
    reach.doubtful.assign(ground.ledges.size(), false);
    const Character plain = without_graces(character);
    const Searcher searcher(ground, world, plain);
    Quiet quiet;
    if (options.before) {
        const Reach& before = options.before->reach;
        Successor(ground, plain, starts, *options.before, reach).run();
        quiet = quiet_where(
            ground, *options.before, searcher.range_m(),
            [&](int was) { return !before.tinted(was) && !before.doubtful[size_t(was)]; },
            [&](int was) { return before.tinted(was); });
    }
    for (const Vec3& start : starts) {
        auto arrival = arrival_at_start(world, plain, start);
        const int ledge = arrival ? ground.ledge_at(arrival->rest.at, 0.05) : -1;
        if (ledge >= 0 && !reach.tinted(ledge))
            reach.arrivals[size_t(ledge)] = std::make_shared<const Arrival>(std::move(*arrival));
    }

    // What the easy plans reach, then the harder ones, until neither finds more.
    std::vector<int> frontier = reached_ledges(reach), all, every(ground.ledges.size());
    for (int ledge : frontier) quiet.add(ground, ledge, searcher.range_m());
    std::iota(every.begin(), every.end(), 0);
    while (!frontier.empty() && !options.cancel.requested()) {
        expand(reach, ground, searcher, frontier, false, false, every, quiet, options.cancel);
        const size_t before = reach.links.size();
        all = reached_ledges(reach);
        expand(reach, ground, searcher, all, true, false, every, quiet, options.cancel);
        frontier.clear();
        for (size_t i = before; i < reach.links.size(); ++i) frontier.push_back(reach.links[i]->to);
    }
    for (int ledge : reached_ledges(reach)) reach.doubtful[size_t(ledge)] = false;
    reach.complete = !options.cancel.requested();
    return reach;
}

Reach extended(Reach reach, const Ground& ground, const World& world, const Character& character,
               const ReachOptions& options) {
    if (options.help_for.empty() || character.late_jump_grace_s <= 0 || character.jump_height_m <= 0)
        return reach;
    Character helped = without_graces(character);
    helped.late_jump_grace_s = character.late_jump_grace_s;
    const Searcher late(ground, world, helped);
    std::vector<int> wanted = options.help_for; // each once: a round looks at each in a thread of its own
    std::sort(wanted.begin(), wanted.end());
    wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
    Quiet none;
    expand(reach, ground, late, reached_ledges(reach), false, true, wanted, none, options.cancel);
    return reach;
}

std::vector<bool> search_return(const Ground& ground, const World& world, const Character& character,
                                Reach& reach, const std::vector<int>& targets, const ReachOptions& options) {
    std::vector<bool> good(ground.ledges.size(), false);
    std::vector<bool> fresh(ground.ledges.size(), false);
    bool any = false;
    for (int ledge : targets)
        if (ledge >= 0) good[size_t(ledge)] = fresh[size_t(ledge)] = any = true;
    const Character plain = without_graces(character);
    const Searcher searcher(ground, world, plain);
    Quiet quiet;
    if (options.before) {
        const ReachBefore& before = *options.before;
        quiet = quiet_where(
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
                if (good[size_t(ledge)]) quiet.add(ground, ledge, searcher.range_m());
            std::vector<int> open;
            for (int ledge = 0; ledge < int(ground.ledges.size()); ++ledge)
                if (reach.tinted(ledge) && !good[size_t(ledge)] && !quiet.holds(ground, ledge))
                    open.push_back(ledge);
            Searcher::Heights heights;
            for (size_t ledge = 0; ledge < fresh.size(); ++ledge)
                if (fresh[ledge]) heights.add(ground.ledges[ledge]);
            std::vector<Searcher::Found> found(open.size());
            parallel_for(open.size(), [&](size_t i) {
                found[i] = searcher.find(
                    reach, open[i], false, [&](int ledge) { return bool(fresh[size_t(ledge)]); }, heights,
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
