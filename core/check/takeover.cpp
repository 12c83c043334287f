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

/// For each ledge of before the one of now that has all of it and goes on nowhere else; -1 where it was
/// parted or lost some of itself. A place of the one is a place of the other as long as no change comes near
/// it.
std::vector<int> same_ledges(const Ground& ground, const ReachBefore& before) {
    constexpr int k_none = -1, k_unseen = -2;
    std::vector<int> now(before.ground.ledges.size(), k_unseen);
    std::vector<size_t> kept(now.size(), 0);
    for (int f = 0; f < int(ground.fragments.size()); ++f) {
        const int then = fragment_before(ground, before, f);
        if (then < 0) continue;
        const size_t was = size_t(before.ground.fragments[size_t(then)].ledge);
        const int ledge = ground.fragments[size_t(f)].ledge;
        ++kept[was];
        now[was] = now[was] == k_unseen || now[was] == ledge ? ledge : k_none;
    }
    for (size_t was = 0; was < now.size(); ++was)
        if (now[was] == k_unseen || kept[was] != before.ground.ledges[was].fragments.size())
            now[was] = k_none;
    return now;
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
          reach_(reach),
          same_(same_ledges(ground, before)) {}

    void run() {
        now_.assign(before_.reach.arrivals.size(), k_unknown);
        for (int ledge = 0; ledge < int(now_.size()); ++ledge) take_over(ledge);
        for (const auto& link : before_.reach.links)
            if (!reach_.tinted(now_[size_t(link->to)]) ||
                before_.reach.arrivals[size_t(link->to)]->link != link)
                take_over(link);
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
        const int to = ledge_now(ledge, arrival->rest.body.at);
        if (to < 0 || reach_.tinted(to)) return now;
        const auto link = begins ? nullptr : add(arrival->link, from, to);
        if (!begins && !link) return now;
        auto& place = reach_.arrivals[size_t(to)];
        if (arrival->from == Node(from) && arrival->link == link) {
            place = arrival; // the same in all
        } else {
            auto taken = std::make_shared<Arrival>(*arrival);
            taken->from = from, taken->link = link;
            place = std::move(taken);
        }
        return now = to;
    }

    /// A link that is no ledge's arrival still counts for ways back.
    void take_over(const std::shared_ptr<const Link>& link) {
        if (untouched(link->visited))
            add(link, ledge_now(link->from, link->start), ledge_now(link->to, link->rest));
    }

    std::shared_ptr<const Link> add(const std::shared_ptr<const Link>& before, int from, int to) {
        if (from < 0 || to < 0 || from == to) return nullptr;
        auto link = before;
        if (link->from != from || link->to != to) {
            auto moved = std::make_shared<Link>(*before);
            moved->from = from, moved->to = to;
            link = std::move(moved);
        }
        reach_.links.push_back(link);
        return link;
    }

    /// Which ledge a place of a ledge of before lies on.
    int ledge_now(int was, const Vec3& place) const {
        const int same = same_[size_t(was)];
        return same >= 0 ? same : ground_.ledge_at(place, 0.05);
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
    const std::vector<int> same_;
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
