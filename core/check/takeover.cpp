#include "check/takeover.h"

#include <algorithm>

namespace rubble::check {

namespace {

/// The fragment of before that a fragment is, or -1. Where only what is asked changed, the ground is the
/// same.
int fragment_before(const Ground& ground, const ReachBefore& before, int fragment) {
    return &ground == &before.ground ? fragment : ground.before[size_t(fragment)];
}

/// For a ledge the one before an edit that was just the same, with nothing changed within range; -1: none.
int same_before(const Ground& ground, const ReachBefore& before, int ledge, double range) {
    const Ledge& now = ground.ledges[size_t(ledge)];
    const int then = fragment_before(ground, before, now.fragments[0]);
    if (then < 0 || before.change.touches(flat(now.box).grown(range))) return -1;
    const int was = before.ground.fragments[size_t(then)].ledge;
    const bool same = before.ground.ledges[size_t(was)].fragments.size() == now.fragments.size() &&
                      std::all_of(now.fragments.begin(), now.fragments.end(), [&](int f) {
                          const int g = fragment_before(ground, before, f);
                          return g >= 0 && before.ground.fragments[size_t(g)].ledge == was;
                      });
    return same ? was : -1;
}

/// Takes over the runs of a search before an edit that no change comes near, each with those before it.
class RunKeeper {
public:
    RunKeeper(const Ground& ground, const Character& c, const std::vector<Vec3>& starts,
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
        const int from = begins ? -1 : take_over(arrival->from.ledge);
        if (!begins && from < 0) return now;
        const int to = ground_.ledge_at(arrival->rest.body.at, 0.05);
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

} // namespace

StillClosed still_closed(const Ground& ground, const ReachBefore& before, double range,
                         const std::function<bool(int)>& closed, const std::function<bool(int)>& open) {
    StillClosed closed_still;
    for (int i = 0; i < int(ground.ledges.size()); ++i) {
        const int was = same_before(ground, before, i, range);
        closed_still.ledges.push_back(was >= 0 && closed(was));
    }
    for (int f = 0; f < int(ground.fragments.size()); ++f) {
        const int was = fragment_before(ground, before, f);
        closed_still.open_before.push_back(was >= 0 && open(before.ground.fragments[size_t(was)].ledge));
    }
    return closed_still;
}

void take_over_runs(const Ground& ground, const Character& character, const std::vector<Vec3>& starts,
                    const ReachBefore& before, Reach& reach) {
    RunKeeper(ground, character, starts, before, reach).run();
}

} // namespace rubble::check
