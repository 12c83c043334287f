#include "study/explorers.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <queue>
#include <set>

#include "base/angle.h"
#include "base/parallel.h"
#include "base/random.h"
#include "check/leap_search.h"
#include "check/stages.h"
#include "edit/items.h"
#include "level/element_values.h"
#include "study/layout.h"

namespace rubble::study {

namespace {

/// How long one looks around before going on (seconds), and what turning right round counts as much as.
constexpr double k_look_s = 0.3, k_turn_s = 1.5;
/// One place in so many is not known again; how differently people judge what is near, as a part of it.
constexpr int k_unknown_again = 10;
constexpr double k_spread = 0.35;
/// How much less a part draws behind which all is known; wide ground draws up to twice as much as small one.
constexpr double k_known_part = 5, k_wide_m2 = 2;
/// Who came to one place so often has gone in a circle.
constexpr int k_circle = 3;

constexpr const char* k_acting[] = {"door",   "gate", "barrier", "switch",     "crate", "dispenser",
                                    "pickup", "key",  "item",    "time_limit", "foe",   "lift"};

/// The level with all ways open, and the rides of its lifts.
struct OpenLayout {
    Level level;
    std::vector<Layout::Ride> rides;
};

OpenLayout opened(const Level& level, const ItemId& from, const ItemId& to) {
    OpenLayout out{level, {}};
    out.level.claims.clear();
    std::vector<ItemId> acting;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const Element* element = item.element();
        if (!element || item.id == from || item.id == to) return;
        if (std::find(std::begin(k_acting), std::end(k_acting), element->kind) != std::end(k_acting))
            acting.push_back(item.id);
        if (element->kind != "lift") return;
        std::vector<Vec3> places = points_value(*element, "stops");
        if (places.size() < 2) places.insert(places.begin(), element->at);
        const double speed = std::max(number_of(*element, "speed_mps"), 0.1);
        for (size_t i = 0; i + 1 < places.size(); ++i)
            out.rides.push_back(
                {places[i], places[i + 1], glm::length(places[i + 1] - places[i]) / speed + 1});
    });
    out.level = edit::without(out.level, acting);
    return out;
}

/// A level's matter, in which nothing acts.
std::shared_ptr<const motion::World> world_of(const Level& level) {
    build::SolidBuilder builder;
    auto world = std::make_shared<motion::World>(*check::world_stage(builder.build(level), nullptr));
    world->set_elements(nullptr);
    return world;
}

/// What one gets to from a place, by lifts too: who rides gets off at every stop. With the ways back.
check::Reach reach_of(const check::LeapSearch& searcher, const Vec3& begin,
                      const std::vector<Layout::Ride>& rides, const Cancel& cancel) {
    const check::Ground& ground = searcher.ground();
    check::ReachOptions options;
    options.cancel = cancel;
    check::Reach reach = search_reach(searcher, {begin}, options);
    std::vector<Vec3> starts{begin};
    std::set<int> ledges;
    const auto get_off = [&](const Vec3& stop) {
        ground.for_near(Box2{flat(stop), flat(stop)}.grown(beside_lift_m), [&](int f) {
            const Vec2 p = geometry::nearest(ground.fragments[size_t(f)].area, flat(stop));
            const Vec3 at = raised(p, ground.feet_at(f, p));
            const int ledge = ground.fragments[size_t(f)].ledge;
            if (std::abs(at.z - stop.z) <= over_lift_m && !reach.tinted(ledge) && ledges.insert(ledge).second)
                starts.push_back(at);
        });
    };
    for (const Layout::Ride& ride : rides) get_off(ride.from), get_off(ride.to);
    if (starts.size() > 1) reach = search_reach(searcher, starts, options);
    std::vector<int> targets;
    for (const Vec3& start : starts) targets.push_back(ground.ledge_at(start, over_lift_m));
    search_return(searcher, reach, targets, options);
    return reach;
}

/// One who looks for a part of a layout.
class Explorer {
public:
    Explorer(const Layout& layout, int begin, Vec2 heading, int goal, uint64_t seed, double within_s,
             bool with_track)
        : parts_(layout.parts()),
          goal_(goal),
          random_(seed),
          within_s_(within_s),
          with_track_(with_track),
          here_(begin),
          heading_(heading),
          known_(parts_.size(), false),
          was_there_(parts_.size(), false),
          visits_(parts_.size(), 0) {}

    PlayerRun run() {
        arrive(here_);
        while (here_ != goal_ && seconds_ < within_s_) {
            wait(k_look_s);
            const auto way = next_way();
            if (way.empty()) break; // there is nothing that leads on
            for (const Layout::Way& step : way) {
                const bool knew_goal = known_[size_t(goal_)];
                go(step);
                arrive(step.to);
                if (here_ == goal_ || seconds_ >= within_s_ || known_[size_t(goal_)] != knew_goal) break;
            }
        }
        PlayerRun out;
        out.arrived = here_ == goal_ && seconds_ <= within_s_;
        out.seconds = std::min(seconds_, within_s_);
        out.track = std::move(track_);
        return out;
    }
    const std::vector<int>& visits() const { return visits_; }

private:
    double drawn() { return double(random_.next() >> 11) * 0x1p-53; }
    /// About 1, never negative.
    double judged() { return std::exp(k_spread * (drawn() + drawn() + drawn() - 1.5) * 2); }

    /// Looks round.
    void arrive(int part) {
        here_ = part;
        ++visits_[size_t(part)];
        was_there_[size_t(part)] = random_.below(k_unknown_again) != 0;
        known_[size_t(part)] = true;
        for (const int i : parts_[size_t(part)].seen) known_[size_t(i)] = true;
        for (const Layout::Way& way : parts_[size_t(part)].ways) known_[size_t(way.to)] = true;
    }

    void go(const Layout::Way& step) {
        const Vec3 from = parts_[size_t(here_)].at, to = parts_[size_t(step.to)].at;
        const Vec2 ahead = flat(to - from);
        if (glm::length(ahead) > 1e-6) heading_ = glm::normalize(ahead);
        note(from, to, step.seconds);
        seconds_ += step.seconds;
    }
    void wait(double seconds) {
        const Vec3& at = parts_[size_t(here_)].at;
        note(at, at, seconds);
        seconds_ += seconds;
    }
    void note(const Vec3& from, const Vec3& to, double seconds) {
        if (!with_track_) return;
        for (double t = double(track_.size()) * track_s; t < seconds_ + seconds; t += track_s)
            track_.push_back(from + (to - from) * std::clamp((t - seconds_) / seconds, 0.0, 1.0));
    }

    /// The way to what draws most: the goal where it is known how to get there, else what is new, near and
    /// ahead; where nothing is, back to where one has been least. Over what is known.
    std::vector<Layout::Way> next_way() {
        constexpr double k_never = std::numeric_limits<double>::infinity();
        std::vector<double> cost(parts_.size(), k_never);
        std::vector<std::pair<int, Layout::Way>> before(parts_.size(), {-1, {}});
        using Entry = std::pair<double, int>;
        std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
        cost[size_t(here_)] = 0;
        open.emplace(0, here_);
        while (!open.empty()) {
            const auto [so_far, at] = open.top();
            open.pop();
            if (so_far > cost[size_t(at)]) continue;
            for (const Layout::Way& way : parts_[size_t(at)].ways) {
                if (!known_[size_t(way.to)] || so_far + way.seconds >= cost[size_t(way.to)]) continue;
                cost[size_t(way.to)] = so_far + way.seconds;
                before[size_t(way.to)] = {at, way};
                open.emplace(cost[size_t(way.to)], way.to);
            }
        }
        int wanted = -1;
        double best = k_never;
        for (int i = 0; i < int(parts_.size()); ++i) {
            if (cost[size_t(i)] == k_never || i == here_) continue;
            if (i == goal_) {
                wanted = i;
                break;
            }
            double draws = cost[size_t(i)] + turn_s(i);
            draws *= judged() * (leads_on(i) ? 1 : k_known_part) *
                     (1 + k_wide_m2 / (k_wide_m2 + parts_[size_t(i)].area_m2));
            if (was_there_[size_t(i)])
                draws += 1e3 * (1 + visits_[size_t(i)]); // old ground, where nothing is new
            if (draws < best) best = draws, wanted = i;
        }
        std::vector<Layout::Way> out;
        for (int at = wanted; at >= 0 && at != here_; at = before[size_t(at)].first)
            out.push_back(before[size_t(at)].second);
        std::reverse(out.begin(), out.end());
        return out;
    }

    /// Whether more lies behind a part than is known by now.
    bool leads_on(int part) const {
        const auto& ways = parts_[size_t(part)].ways;
        return std::any_of(ways.begin(), ways.end(),
                           [&](const Layout::Way& way) { return !known_[size_t(way.to)]; });
    }

    /// What turning towards a part counts as much as.
    double turn_s(int part) const {
        const Vec2 to = flat(parts_[size_t(part)].at - parts_[size_t(here_)].at);
        const double length = glm::length(to);
        return length < 1e-6 ? 0 : k_turn_s * (1 - glm::dot(to / length, heading_)) / 2;
    }

    const std::vector<Layout::Part>& parts_;
    int goal_;
    RandomSource random_;
    double within_s_;
    bool with_track_;
    int here_;
    double seconds_ = 0;
    Vec2 heading_;
    std::vector<bool> known_;     ///< seen
    std::vector<bool> was_there_; ///< and remembered
    std::vector<int> visits_;
    std::vector<Vec3> track_;
};

Result<Vec3> end_at(const Level& level, const ItemId& id) {
    const Item* item = find_item(level, id);
    if (!item || !item->element()) return fail("players.end", id.value, "is no element of the level");
    return met_at(level, *item->element());
}

} // namespace

Result<Exploration> run_explorers(const Project& project, const Level& level, const ItemId& from,
                                  const ItemId& to, const ExplorersOptions& options) {
    if (level.walked == Walked::by_cells)
        return fail("players.cells", level.name, "is walked by cells, which nobody gets lost in");
    const auto begin = end_at(level, from), end = end_at(level, to);
    if (!begin) return tl::unexpected(begin.error());
    if (!end) return tl::unexpected(end.error());
    const OpenLayout open = opened(level, from, to);
    const Character character = character_of(project, level);
    const auto world = world_of(open.level);
    const check::Ground ground = check::ground_of(*world, character, options.cancel);
    const check::LeapSearch searcher(ground, *world, character);
    const check::Reach reach = reach_of(searcher, *begin, open.rides, options.cancel);
    Exploration out;
    out.crowd.complete = !options.cancel.requested();
    if (!out.crowd.complete) return out;
    const auto spots = spots_of(ground, character, *end);
    if (std::none_of(spots.begin(), spots.end(), [&](const auto& spot) { return reach.tinted(spot.ledge); }))
        return fail("players.unreached", to.value, "is not reached, even with all ways open");
    const Layout layout(*world, ground, reach, character, open.rides);
    const int first = layout.part_at(*begin), goal = layout.part_at(*end);
    if (first < 0 || goal < 0)
        return fail("players.unreached", to.value, "is not reached from " + from.value);
    const auto [x, y] = cos_sin(find_item(level, from)->element()->facing_deg);
    const Vec2 heading(x, y);
    Crowd& crowd = out.crowd;
    crowd.runs.resize(size_t(std::max(options.runs, 0)));
    std::vector<std::vector<int>> visits(crowd.runs.size());
    std::atomic<size_t> done = 0;
    parallel_for(crowd.runs.size(), [&](size_t i) {
        if (options.cancel.requested()) return;
        Explorer explorer(layout, first, heading, goal, options.first_seed + i, options.within_s,
                          int(i) < options.tracks);
        crowd.runs[i] = explorer.run();
        visits[i] = explorer.visits();
        if (options.progress) options.progress(double(++done) / double(crowd.runs.size()));
    });
    crowd.complete = !options.cancel.requested();
    for (const Layout::Part& part : layout.parts()) out.areas.push_back({part.at, part.area_m2});
    for (size_t i = 0; i < visits.size() && crowd.complete; ++i)
        for (size_t k = 0; k < out.areas.size(); ++k) {
            out.areas[k].visits += visits[i][k];
            out.areas[k].found_by += visits[i][k] > 0, out.areas[k].circles += visits[i][k] >= k_circle;
        }
    tally(crowd);
    return out;
}

} // namespace rubble::study
