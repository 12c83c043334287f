#include "check/near_miss.h"

#include <cmath>
#include <map>
#include <queue>
#include <set>

#include "base/angle.h"
#include "base/tolerance.h"
#include "check/flight.h"

namespace rubble::check {

using motion::World;

namespace {

/// Misses farther than this are not offered as near (metres).
constexpr double k_near_m = 8;
/// A flight that lacks less than the first is what is missing; one that lacks less than the second is, unless
/// it is a slope (metres).
constexpr double k_small_miss_m = 0.5, k_flight_first_m = 3;

/// The flight between reached ground and one of the wanted ledges that lacks least.
std::optional<NearMiss> flight_miss(const World& world, const Ground& ground, const Reach& reach,
                                    const Character& c, const std::set<int>& wanted) {
    std::optional<NearMiss> best;
    const double highest = highest_ledge(c);
    for (int to = 0; to < int(ground.fragments.size()); ++to) {
        const Fragment& b = ground.fragments[size_t(to)];
        if (!wanted.contains(b.ledge)) continue;
        const double range = c.run_speed_mps * fall_time(c, c.survived_fall_m) + k_near_m;
        ground.for_near(b.box.grown(range), [&](int from) {
            const Fragment& a = ground.fragments[size_t(from)];
            if (!reach.reached(a.ledge) || a.low) return;
            const auto pair = geometry::nearest(a.area, b.area);
            const double za = ground.feet_at(from, pair.on_a), zb = ground.feet_at(to, pair.on_b);
            NearMiss miss;
            miss.rise_m = zb - za;
            miss.gap_m = pair.distance + 2 * overhang_m(c);
            miss.take_off = raised(pair.on_a, za), miss.landing = raised(pair.on_b, zb);
            miss.take_off_column = ground.tops[size_t(a.top)].column;
            miss.landing_column = ground.tops[size_t(b.top)].column;
            const Vec2 way = pair.on_b - pair.on_a;
            const Vec2 direction = pair.distance > 1e-6 ? way / pair.distance : Vec2(1, 0);
            const double full = c.run_speed_mps * c.run_speed_mps / (2 * c.ground_acceleration_mps2);
            const double run_up = run_up_m(ground, from, pair.on_a, direction, full + 0.01);
            double longest = -1;
            const auto jumped = [&](double height) {
                if (c.further_jumps > 0) return longest_gap(c, miss.rise_m, run_up);
                const double room = room_over_way(world, c, miss.take_off, miss.landing, height, 1e9);
                return longest_gap_below(c, miss.rise_m, run_up, room);
            };
            if (const auto gap = jumped(c.height_m)) longest = *gap;
            if (c.crouched_height_m > 0)
                if (const auto gap = jumped(c.crouched_height_m)) longest = std::max(longest, *gap);
            if (miss.rise_m < 0) longest = std::max(longest, longest_step_off(c, -miss.rise_m, run_up));
            if (c.pull_up_m > 0)
                longest = std::max(longest, longest_gap_pulling(c, miss.rise_m, run_up).value_or(-1));
            if (miss.rise_m > highest + tolerance::limit_m) {
                miss.limit = c.jump_height_m > 0 ? Limit::height : Limit::step;
                miss.missing_m = miss.rise_m - std::max(highest, c.step_height_m);
                // A gap that is too wide as well makes it the farther of two misses.
                if (const auto at_apex = longest_gap(c, highest_rise(c), run_up))
                    miss.missing_m += std::max(0.0, miss.gap_m - *at_apex);
            } else if (-miss.rise_m > c.survived_fall_m + tolerance::limit_m) {
                miss.limit = Limit::fall;
                miss.missing_m = -miss.rise_m - c.survived_fall_m;
            } else {
                miss.limit = Limit::gap;
                miss.missing_m = miss.gap_m - longest;
            }
            if (miss.missing_m <= 0.0 || miss.missing_m > k_near_m) return;
            if (!best || miss.missing_m < best->missing_m - 1e-9) best = miss;
        });
    }
    if (best && best->limit == Limit::height) best->missing_m = best->rise_m - highest;
    return best;
}

/// The least change of one metric, from 0 to `most`, with which the thing is reached.
template <class Change>
std::optional<double> least_change(OtherMetrics& others, const Character& c, const Vec3& from, const Vec3& to,
                                   double most, Change change, const Cancel& cancel) {
    auto works = [&](double by) {
        Character other = c;
        change(other, by);
        return others.ask(other, from, to) == Reached::yes;
    };
    if (!works(most)) return {};
    double fails = 0, holds = most;
    for (int i = 0; i < 7 && !cancel.requested(); ++i) {
        const double middle = (fails + holds) / 2;
        (works(middle) ? holds : fails) = middle;
    }
    return holds;
}

/// The smallest slope above the limit with which the thing is reached, in degrees above it: what can be
/// walked at one slope can be at a steeper one, so the slopes that there are get halved.
std::optional<double> slope_change(OtherMetrics& others, const World& world, const Character& c,
                                   const Vec3& from, const Vec3& to, const Cancel& cancel) {
    constexpr double k_steepest_deg = 80;
    std::set<double> found;
    for (const auto& column : world.columns())
        if (column.slope_deg > c.max_slope_deg + tolerance::limit_deg && column.slope_deg < k_steepest_deg)
            found.insert(std::ceil(column.slope_deg * 1000) / 1000);
    const std::vector<double> slopes(found.begin(), found.end());
    const auto works = [&](double deg) {
        Character other = c;
        other.max_slope_deg = deg;
        return others.ask(other, from, to) == Reached::yes;
    };
    if (slopes.empty() || !works(slopes.back())) return {};
    size_t fails = 0, holds = slopes.size() - 1; // all before `fails` do
    while (fails < holds && !cancel.requested()) {
        const size_t middle = (fails + holds) / 2;
        if (works(slopes[middle]))
            holds = middle;
        else
            fails = middle + 1;
    }
    return slopes[holds] - c.max_slope_deg;
}

/// A way up over edges where ground meets ground: how high the highest of them is, and which.
struct Climb {
    double height_m = std::numeric_limits<double>::infinity();
    int upper_fragment = -1; ///< -1: no edge is higher than the character's own step
    const Portal* edge = nullptr;
};

/// For each ledge the way to it from reached ground whose highest edge is lowest (bottleneck paths by
/// Dijkstra's algorithm; Pollack 1960), no edge higher than `most_m`.
std::vector<Climb> lowest_climbs(const Ground& ground, const Reach& reach, double own_step_m, double most_m) {
    std::vector<std::vector<Climb>> up_from(ground.ledges.size());
    for (int upper = 0; upper < int(ground.fragments.size()); ++upper)
        for (const Portal& portal : ground.fragments[size_t(upper)].portals)
            if (-portal.rise <= most_m)
                up_from[size_t(ground.fragments[size_t(portal.to)].ledge)].push_back(
                    {-portal.rise, upper, &portal});
    std::vector<Climb> best(ground.ledges.size());
    using Entry = std::pair<double, int>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    for (int ledge = 0; ledge < int(ground.ledges.size()); ++ledge)
        if (reach.reached(ledge)) open.emplace(best[size_t(ledge)].height_m = own_step_m, ledge);
    while (!open.empty()) {
        const auto [height, ledge] = open.top();
        open.pop();
        const Climb so_far = best[size_t(ledge)];
        if (height > so_far.height_m) continue;
        for (const Climb& edge : up_from[size_t(ledge)]) {
            Climb& there = best[size_t(ground.fragments[size_t(edge.upper_fragment)].ledge)];
            const Climb& higher = edge.height_m > height ? edge : so_far;
            if (higher.height_m >= there.height_m) continue;
            there = higher;
            open.emplace(there.height_m, ground.fragments[size_t(edge.upper_fragment)].ledge);
        }
    }
    return best;
}

/// The least step above the character's own with which one would climb to where the thing is had; with the
/// edge that takes it. Where flight helps on the way it may be too much.
std::optional<NearMiss> step_miss(const Ground& ground, const Reach& reach, const Character& c,
                                  const Vec3& to, double most_m) {
    Character higher = c;
    higher.step_height_m += most_m;
    const std::vector<Climb> climbs = lowest_climbs(ground, reach, c.step_height_m, higher.step_height_m);
    Climb best;
    for (const Spot& spot : spots_of(ground, higher, to)) {
        Climb climb = climbs[size_t(spot.ledge)];
        // From a step above or below the thing is had with that step.
        const double apart = std::abs(ground.feet_at(spot.fragment, spot.at) - to.z);
        if (apart > climb.height_m) climb = {apart, -1, nullptr};
        if (climb.height_m < best.height_m) best = climb;
    }
    if (!std::isfinite(best.height_m)) return {};
    NearMiss miss;
    miss.limit = Limit::step, miss.missing_m = best.height_m - c.step_height_m;
    if (!best.edge) return miss;
    const Fragment &upper = ground.fragments[size_t(best.upper_fragment)],
                   &lower = ground.fragments[size_t(best.edge->to)];
    const Vec2 at = best.edge->middle();
    miss.landing = raised(at, ground.feet_at(best.upper_fragment, at));
    miss.take_off = raised(at, miss.landing.z - best.height_m);
    miss.rise_m = best.height_m;
    miss.landing_column = ground.tops[size_t(upper.top)].column;
    miss.take_off_column = ground.tops[size_t(lower.top)].column;
    return miss;
}

} // namespace

std::optional<NearMiss> near_miss(OtherMetrics& others, const World& world, const Ground& ground,
                                  const Reach& reach, const Character& c, const Vec3& from, const Vec3& to,
                                  const Cancel& cancel) {
    if (world.moving().cells) return {}; // cells are walls or are not: nothing is missing by a little
    if (!arrival_at_start(world, c, from)) return {}; // nobody begins there: nothing else is missing
    std::set<int> wanted;
    for (const Spot& spot : spots_of(ground, c, to)) wanted.insert(spot.ledge);
    // Ledges from which the thing is walked or dropped to would do as well; the wanted ones are enough to
    // say what is missing, and mends are tried for real.
    std::optional<NearMiss> flight =
        wanted.empty() ? std::nullopt : flight_miss(world, ground, reach, c, wanted);
    if (flight && flight->missing_m < k_small_miss_m) return flight;
    // A ramp that is a little too steep is nearer the truth than the height it leads to.
    NearMiss miss;
    if (const auto deg = slope_change(others, world, c, from, to, cancel)) {
        miss.limit = Limit::slope, miss.missing_deg = *deg;
        return miss;
    }
    if (flight && flight->missing_m < k_flight_first_m) return flight;
    // An edge that is hardly too high comes before what takes many searches to tell.
    constexpr double k_hardly_m = 0.2, k_highest_m = 1.0;
    const auto step = [](Character& other, double by) { other.step_height_m += by; };
    const auto climb = step_miss(ground, reach, c, to, k_highest_m);
    const auto climbed = [&] {
        Character higher = c;
        step(higher, climb->missing_m);
        return others.ask(higher, from, to) == Reached::yes;
    };
    const bool hardly = climb && climb->missing_m <= k_hardly_m;
    if (hardly && climbed()) return climb;
    auto narrower = [](Character& other, double by) {
        other.radius_m -= by / 2;
        other.least_support_m = std::min(other.least_support_m, other.radius_m / 2);
    };
    if (const auto by = least_change(others, c, from, to, 1.6 * c.radius_m, narrower, cancel)) {
        miss.limit = Limit::width, miss.missing_m = *by;
        return miss;
    }
    auto shorter = [](Character& other, double by) {
        other.height_m -= by;
        other.crouched_height_m = std::max(0.0, other.crouched_height_m - by);
        other.eye_height_m = std::min(other.eye_height_m, other.height_m);
    };
    const double least_height = c.crouched_height_m > 0 ? c.crouched_height_m : c.height_m;
    if (const auto by = least_change(others, c, from, to, 0.8 * least_height, shorter, cancel)) {
        miss.limit = Limit::headroom, miss.missing_m = *by;
        return miss;
    }
    if (climb && !hardly && climbed()) return climb;
    if (const auto by = least_change(others, c, from, to, k_highest_m, step, cancel)) {
        miss.limit = Limit::step, miss.missing_m = *by;
        return miss;
    }
    return flight;
}

} // namespace rubble::check
