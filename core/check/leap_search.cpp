#include "check/leap_search.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "base/tolerance.h"
#include "check/flight.h"

namespace rubble::check {

using motion::World;

namespace {

/// Ledges of more fragments are looked around piece by piece.
constexpr size_t k_wide_ledge = 64;
/// Plans whose take-off and landing are closer than this to one that failed are not tried (metres).
constexpr double k_alike_m = 0.35;

/// When each of the other ledges gets its turn: pairs and pieces looked at, leaps played.
constexpr size_t k_pairs_of_each = 48, k_pieces_of_each = 64, k_turns = 3;

double apart(const Box2& a, const Box2& b) {
    return glm::length(glm::max(glm::max(a.low - b.high, b.low - a.high), Vec2(0)));
}

/// Whether a wall stands between two places that no flight from one to the other goes over or under.
bool walled(const World& world, const Character& c, const Vec3& from, const Vec3& to) {
    constexpr double k_step_m = 0.05;
    const double low = std::min(from.z, to.z) + c.height_m, apex = from.z + highest_ledge(c);
    const Vec2 a = flat(from), b = flat(to);
    bool found = false;
    world.for_near({glm::min(a, b), glm::max(a, b)}, [&](int i) {
        const motion::Column& column = world.columns()[size_t(i)];
        if (column.one_way()) return;
        const int steps = int(glm::length(b - a) / k_step_m);
        for (int k = 1; k < steps && !found; ++k) {
            const Vec2 p = a + (b - a) * (double(k) / steps);
            found = column.box.contains(p) && column.bottom.at(p) < low && column.top.at(p) > apex &&
                    geometry::distance(column.area, p) <= 0;
        }
    });
    return found;
}

Character without_graces(Character c, bool late_jumps) {
    if (!late_jumps) c.late_jump_grace_s = 0;
    c.early_press_s = 0;
    return c;
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

LeapSearch::LeapSearch(const Ground& ground, const World& world, const Character& c, bool late_jumps)
    : g_(ground),
      w_(world),
      c_(without_graces(c, late_jumps)),
      range_(c) {
    around_.resize(ground.ledges.size());
}

LeapSearch::Found LeapSearch::find(const Known& known, int ledge, bool into, const Others& other,
                                   const Heights& heights, Effort effort, bool more) const {
    if (g_.cells) return {}; // from cell to cell one walks
    Found found;
    const Box3& own = g_.ledges[size_t(ledge)].box;
    const double up = highest_ledge(c_) + tolerance::limit_m;
    if ((into ? own.low.z - heights.high : heights.low - own.high.z) > up) return found;
    std::vector<LeapPlan> plans;
    for (const Pair& pair : near_pairs(ledge, into, other, effort.pairs))
        plan_leaps(g_, w_, c_, pair.from, pair.to, more, plans);
    const auto by_ease = [](const LeapPlan& a, const LeapPlan& b) { return a.ease > b.ease; };
    std::stable_sort(plans.begin(), plans.end(), by_ease);
    std::vector<const LeapPlan*> tried;
    const auto is_new = [&](const LeapPlan& plan) {
        return std::none_of(tried.begin(), tried.end(), [&](const LeapPlan* t) {
            return glm::length(t->take_off - plan.take_off) < k_alike_m &&
                   glm::length(t->landing - plan.landing) < k_alike_m;
        });
    };
    for (const LeapPlan& plan : plans) {
        if (tried.size() >= effort.tries || found.wanted) break;
        if (!is_new(plan)) continue;
        tried.push_back(&plan);
        try_plan(known, ledge, into, other, plan, found);
    }
    if (!more || found.wanted || g_.ledges[size_t(ledge)].fragments.size() <= k_wide_ledge) return found;
    // Of a wide ledge all that was nearest may lie behind one wall: each of the others gets its turn.
    std::vector<LeapPlan> others;
    for (const Pair& pair : pairs_of_each(ledge, into, other))
        plan_leaps(g_, w_, c_, pair.from, pair.to, more, others);
    std::stable_sort(others.begin(), others.end(), by_ease);
    std::map<int, size_t> turns;
    for (const LeapPlan& plan : others) {
        if (found.wanted) break;
        const int from = g_.fragments[size_t(into ? plan.from_fragment : plan.to_fragment)].ledge;
        if (turns[from] >= k_turns || !is_new(plan) || walled(w_, c_, plan.take_off, plan.landing)) continue;
        ++turns[from];
        tried.push_back(&plan);
        try_plan(known, ledge, into, other, plan, found);
    }
    return found;
}

/// Plays a leap and notes what it reaches; whether that was wanted.
bool LeapSearch::try_plan(const Known& known, int ledge, bool into, const Others& other, const LeapPlan& plan,
                          Found& found) const {
    ++found.tries;
    auto leap = try_leap(g_, w_, c_, plan);
    if (!leap) return false;
    const bool wanted = into ? leap->to == ledge : bool(other[size_t(leap->to)]);
    // Wherever else it came to rest is reached as well.
    if (!wanted && (!into || known.reach.tinted(leap->to))) return false;
    const auto link = std::make_shared<const Link>(std::move(*leap));
    if (!into) { // a way out needs no run to it: it begins at rest on its own ledge
        found.way_out = link;
        found.wanted = true;
    } else if (auto arrival = arrival_from(known, link)) {
        found.proofs.emplace_back(link, std::move(*arrival));
        found.wanted = wanted;
    } else {
        found.doubtful.push_back(link);
    }
    return found.wanted;
}

/// The run over a link from where its ledge was reached; nothing where it cannot be played there.
std::optional<Arrival> LeapSearch::arrival_from(const Known& known,
                                                const std::shared_ptr<const Link>& link) const {
    const Arrival& before = *known.reach.arrivals[size_t(link->from)];
    return arrival_by(g_, c_, known.stations.set_out(before, link->from, link->start), before, link);
}

std::vector<LeapSearch::Pair> LeapSearch::pairs_of_each(int ledge, bool into, const Others& other) const {
    std::vector<Pair> out;
    for (const Neighbour& neighbour : look_around(ledge)) {
        if (!other[size_t(neighbour.ledge)]) continue;
        NearestPairs nearest(k_pairs_of_each);
        for (size_t i = 0; i < std::min(neighbour.fragments.size(), k_pieces_of_each); ++i) {
            const int piece = neighbour.fragments[i].second;
            const double reach = std::min(range_.farthest(), nearest.farthest());
            g_.for_near(g_.fragments[size_t(piece)].box.grown(reach), [&](int near) {
                if (g_.fragments[size_t(near)].ledge == ledge) add_pair(near, piece, into, nearest);
            });
        }
        for (const Pair& pair : nearest.sorted()) out.push_back(pair);
    }
    return out;
}

/// The nearest pairs of a fragment of the ledge with one of the others, by the distance of their boxes.
std::vector<LeapSearch::Pair> LeapSearch::near_pairs(int ledge, bool into, const Others& other,
                                                     size_t most) const {
    NearestPairs nearest(most);
    const Ledge& l = g_.ledges[size_t(ledge)];
    if (l.fragments.size() > k_wide_ledge) {
        // Piece by piece, from the side that has fewer of them, in a circle that shrinks as pairs are found.
        std::vector<int> others;
        for (const Neighbour& neighbour : look_around(ledge))
            if (other[size_t(neighbour.ledge)])
                for (const auto& [apart, fragment] : neighbour.fragments) others.push_back(fragment);
        const bool from_own = l.fragments.size() <= others.size();
        for (int piece : from_own ? l.fragments : others) {
            const double reach = std::min(range_.farthest(), nearest.farthest());
            g_.for_near(g_.fragments[size_t(piece)].box.grown(reach), [&](int near) {
                const int near_ledge = g_.fragments[size_t(near)].ledge;
                if (from_own ? bool(other[size_t(near_ledge)]) : near_ledge == ledge)
                    add_pair(from_own ? piece : near, from_own ? near : piece, into, nearest);
            });
        }
    } else {
        // No fragment of the ledge is nearer than its box, and the rest are farther still.
        for (const Neighbour& neighbour : look_around(ledge)) {
            if (neighbour.fragments.front().first > nearest.farthest()) break;
            if (!other[size_t(neighbour.ledge)]) continue;
            for (const auto& [apart, fragment] : neighbour.fragments) {
                if (apart > nearest.farthest()) break;
                for (int own : l.fragments) add_pair(own, fragment, into, nearest);
            }
        }
    }
    return nearest.sorted();
}

/// The other ledges within range of a ledge, nearest first, looked for once. Not from two threads for
/// one ledge.
const std::vector<LeapSearch::Neighbour>& LeapSearch::look_around(int ledge) const {
    auto& known = around_[size_t(ledge)];
    if (known) return *known;
    known.emplace();
    const Ledge& l = g_.ledges[size_t(ledge)];
    struct Near {
        int ledge;
        double apart;
        int fragment;
    };
    std::vector<Near> found;
    g_.for_near(flat(l.box).grown(range_.farthest()), [&](int near) {
        const Fragment& n = g_.fragments[size_t(near)];
        if (n.ledge == ledge) return;
        const double distance = apart(flat(l.box), n.box);
        if (distance <= range_.at(n.lowest_m - l.box.high.z) ||
            distance <= range_.at(l.box.low.z - n.highest_m))
            found.push_back({n.ledge, distance, near});
    });
    std::sort(found.begin(), found.end(), [](const Near& a, const Near& b) {
        return std::tie(a.ledge, a.apart, a.fragment) < std::tie(b.ledge, b.apart, b.fragment);
    });
    for (const Near& near : found) {
        if (known->empty() || known->back().ledge != near.ledge) known->push_back({near.ledge, {}});
        known->back().fragments.emplace_back(near.apart, near.fragment);
    }
    std::stable_sort(known->begin(), known->end(), [](const Neighbour& a, const Neighbour& b) {
        return a.fragments.front().first < b.fragments.front().first;
    });
    return *known;
}

void LeapSearch::add_pair(int own, int near, bool into, NearestPairs& nearest) const {
    const Fragment &f = g_.fragments[size_t(own)], &n = g_.fragments[size_t(near)];
    if (n.ledge == f.ledge) return;
    const double distance = apart(f.box, n.box);
    if (distance > nearest.farthest()) return;
    const Fragment &from = into ? n : f, &to = into ? f : n;
    if (distance > range_.at(to.lowest_m - from.highest_m)) return;
    if (from.low && to.lowest_m >= from.highest_m) return; // nobody jumps crouched
    nearest.add({into ? near : own, into ? own : near, distance});
}

} // namespace rubble::check
