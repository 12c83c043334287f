#include "check/leap_search.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "check/flight.h"

namespace rubble::check {

using motion::World;

namespace {

/// Ledges of more fragments are looked around piece by piece.
constexpr size_t k_wide_ledge = 64;
/// Plans whose take-off and landing are closer than this to one that failed are not tried (metres).
constexpr double k_alike_m = 0.35;

double apart(const Box2& a, const Box2& b) {
    return glm::length(glm::max(glm::max(a.low - b.high, b.low - a.high), Vec2(0)));
}

} // namespace

/// The nearest of the pairs that were added.
class LeapSearch::NearestPairs {
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

LeapSearch::LeapSearch(const Ground& ground, const World& world, const Character& c)
    : g_(ground),
      w_(world),
      c_(c) {
    const double deepest = std::max(c.survived_fall_m, 0.0);
    double time = fall_time(c, deepest);
    if (const auto jump = flight_time(c, -deepest)) time = std::max(time, *jump);
    range_ = c.run_speed_mps * (time + c.late_jump_grace_s) + 0.1;
    around_.resize(ground.ledges.size());
}

LeapSearch::Found LeapSearch::find(const Reach& reach, int ledge, bool into, const Others& other,
                                   const Heights& heights, Effort effort, bool more) const {
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

/// The nearest pairs of a fragment of the ledge with one of the others, by the distance of their boxes.
std::vector<LeapSearch::Pair> LeapSearch::near_pairs(int ledge, bool into, const Others& other,
                                                     size_t most) const {
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

/// The fragments of other ledges within range of a small ledge, nearest first, looked for once. Not from
/// two threads for one ledge.
const std::vector<LeapSearch::Neighbour>& LeapSearch::look_around(int ledge) const {
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
bool LeapSearch::within_heights(double from_low, double from_high, double to_low, double to_high) const {
    const double up = highest_rise(c_) + tolerance::limit_m, down = c_.survived_fall_m + tolerance::limit_m;
    return to_low - from_high <= up && to_high - from_low >= -down;
}

void LeapSearch::add_pair(int own, int near, bool into, NearestPairs& nearest) const {
    const Fragment &f = g_.fragments[size_t(own)], &n = g_.fragments[size_t(near)];
    if (n.ledge == f.ledge) return;
    const double distance = apart(f.box, n.box);
    if (distance > std::min(range_, nearest.farthest())) return;
    const Fragment &from = into ? n : f, &to = into ? f : n;
    if (!within_heights(from.lowest_m, from.highest_m, to.lowest_m, to.highest_m)) return;
    if (from.low && to.lowest_m >= from.highest_m) return; // nobody jumps crouched
    nearest.add({into ? near : own, into ? own : near, distance});
}

} // namespace rubble::check
