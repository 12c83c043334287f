#include "check/link_graph.h"

#include <limits>
#include <queue>

namespace rubble::check {

LinkGraph::LinkGraph(const Ground& ground, const Character& character,
                     std::vector<std::shared_ptr<const Link>> links)
    : speed_mps_(character.run_speed_mps),
      links_(std::move(links)),
      from_(ground.ledges.size()),
      into_(ground.ledges.size()) {
    for (size_t i = 0; i < links_.size(); ++i) {
        from_[size_t(links_[i]->from)].push_back(int(i));
        into_[size_t(links_[i]->to)].push_back(int(i));
    }
}

LinkGraph::Towards LinkGraph::towards(int ledge, Vec2 at) const {
    Towards out{ledge, at, {}};
    out.seconds.assign(links_.size(), std::numeric_limits<double>::infinity());
    if (ledge < 0) return out;
    using Entry = std::pair<double, int>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    const auto relax = [&](int link, double after_s) {
        const double seconds = links_[size_t(link)]->recording.seconds() + after_s;
        if (seconds >= out.seconds[size_t(link)]) return;
        out.seconds[size_t(link)] = seconds;
        open.push({seconds, link});
    };
    for (const int link : into_[size_t(ledge)]) relax(link, walk_s(flat(links_[size_t(link)]->rest), at));
    while (!open.empty()) {
        const auto [seconds, link] = open.top();
        open.pop();
        if (seconds > out.seconds[size_t(link)]) continue;
        const Link& one = *links_[size_t(link)];
        for (const int before : into_[size_t(one.from)])
            relax(before, walk_s(flat(links_[size_t(before)]->rest), flat(one.start)) + seconds);
    }
    return out;
}

std::optional<LinkGraph::Next> LinkGraph::next(const Towards& to, int ledge, Vec2 at,
                                               const std::vector<bool>* avoided) const {
    std::optional<Next> best;
    if (ledge < 0) return best;
    if (ledge == to.ledge) best = Next{-1, walk_s(at, to.at)};
    for (const int link : from_[size_t(ledge)]) {
        if (avoided && (*avoided)[size_t(link)]) continue;
        const double seconds = walk_s(at, flat(links_[size_t(link)]->start)) + to.seconds[size_t(link)];
        if (seconds < (best ? best->seconds : std::numeric_limits<double>::infinity()))
            best = Next{link, seconds};
    }
    return best;
}

} // namespace rubble::check
