#include "check/walk.h"

#include <cmath>
#include <queue>
#include <unordered_map>

#include "base/tolerance.h"
#include "check/cell_ground.h"

namespace rubble::check {

using motion::Input;
using motion::Recorder;
using motion::step_s;

namespace {

/// The part of `by` from `from` that lies in a convex area, as parts of the way; nothing where none does.
std::optional<std::pair<double, double>> part_inside(const geometry::ConvexArea& area, Vec2 from, Vec2 by) {
    double enter = 0, leave = 1;
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 along = area[(i + 1) % area.size()] - area[i];
        const double length = glm::length(along);
        if (length < tolerance::same_place_m) continue;
        const double value = cross(along, from - area[i]) / length + 1e-7, speed = cross(along, by) / length;
        if (speed == 0) {
            if (value < 0) return {};
        } else if (speed > 0) {
            enter = std::max(enter, -value / speed);
        } else {
            leave = std::min(leave, -value / speed);
        }
    }
    if (enter > leave) return {};
    return {{enter, leave}};
}

/// Round rims leave a gap between fragments of different heights that a straight way may cross.
constexpr double k_rim_m = 0.05;
/// Through a narrower portal one must aim; the detour that is taken to spare it, for each metre it is
/// narrower.
constexpr double k_wide_m = 0.1, k_detour = 20;

} // namespace

namespace {

/// Whether a portal passes a place.
bool passes(const Portal& portal, Vec2 place) {
    const Vec2 along = portal.b - portal.a;
    const double t = std::clamp(glm::dot(place - portal.a, along) / glm::dot(along, along), 0.0, 1.0);
    return glm::length(portal.a + along * t - place) <= 1e-4;
}

/// The fragments that one comes into at a place on the rim of a fragment: its neighbours there, and where the
/// place is a corner of several, as where tiles meet, those around it.
std::vector<int> beyond(const Ground& ground, int fragment, Vec2 exit, bool upright_only) {
    constexpr size_t k_most = 16;
    std::vector<int> around{fragment};
    for (size_t i = 0; i < around.size() && around.size() < k_most; ++i)
        for (const Portal& portal : ground.fragments[size_t(around[i])].portals)
            if (portal.walked && !(upright_only && ground.fragments[size_t(portal.to)].low) &&
                passes(portal, exit) && std::find(around.begin(), around.end(), portal.to) == around.end())
                around.push_back(portal.to);
    around.erase(around.begin());
    return around;
}

} // namespace

double straight_part(const Ground& ground, int fragment, Vec2 from, Vec2 by, bool upright_only) {
    const double length = glm::length(by);
    if (length == 0) return 1;
    const auto first = part_inside(ground.fragments[size_t(fragment)].area, from, by);
    double reached = first ? first->second : 0;
    int at = fragment;
    for (int hops = 0; hops < 1000 && reached < 1; ++hops) {
        int next = -1;
        double best = reached;
        for (const int to : beyond(ground, at, from + by * reached, upright_only)) {
            const auto part = part_inside(ground.fragments[size_t(to)].area, from, by);
            if (!part || part->first > reached + k_rim_m / length || part->second <= best + 1e-9) continue;
            next = to, best = part->second;
        }
        if (next < 0) break;
        at = next, reached = best;
    }
    return std::min(reached, 1.0);
}

std::optional<Path> find_path(const Ground& ground, int from_fragment, Vec2 from, int to_fragment, Vec2 to,
                              const ClosedWays& closed) {
    struct Visit {
        double cost = std::numeric_limits<double>::infinity();
        int before = -1;
        Vec2 entry{0};
        bool done = false;
    };
    std::unordered_map<int, Visit> visits;
    using Entry = std::pair<double, int>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    visits[from_fragment] = {0, -1, from, false};
    open.emplace(glm::length(to - from), from_fragment);
    while (!open.empty()) {
        const int at = open.top().second;
        open.pop();
        Visit& here = visits[at];
        if (here.done) continue;
        here.done = true;
        if (at == to_fragment) break;
        const Vec2 entry = here.entry;
        const double cost = here.cost;
        for (const Portal& portal : ground.fragments[size_t(at)].portals) {
            if (!portal.walked || closed.contains({at, portal.to})) continue;
            // The nearest place of the portal to the straight line, kept off its ends.
            const Vec2 along = portal.b - portal.a;
            const double aim = std::clamp(
                glm::dot((entry + to) * 0.5 - portal.a, along) / glm::dot(along, along), 0.25, 0.75);
            const Vec2 through = portal.a + along * aim;
            const double slow = ground.fragments[size_t(portal.to)].low ? 2 : 1;
            const double narrow = std::max(0.0, k_wide_m - glm::length(along));
            const double next_cost = cost + glm::length(through - entry) * slow + narrow * k_detour;
            Visit& next = visits[portal.to];
            if (next.done || next_cost >= next.cost) continue;
            next = {next_cost, at, through, false};
            open.emplace(next_cost + glm::length(to - through), portal.to);
        }
    }
    const auto end = visits.find(to_fragment);
    if (end == visits.end() || !end->second.done) return {};

    std::vector<Path::Point> back{{to, ground.fragments[size_t(to_fragment)].low}};
    std::vector<int> back_fragments{to_fragment};
    for (int at = to_fragment; visits[at].before >= 0; at = visits[at].before) {
        const int before = visits[at].before;
        back.push_back({visits[at].entry, ground.fragments[size_t(before)].low});
        back_fragments.push_back(before);
    }
    back.push_back({from, false});
    back_fragments.push_back(from_fragment);
    std::reverse(back.begin(), back.end());
    std::reverse(back_fragments.begin(), back_fragments.end());

    // Points are left out as long as the straight line from the last kept one stays on the ledge.
    Path path;
    path.fragments = back_fragments;
    path.points.push_back(back[0]);
    size_t kept = 0;
    while (kept + 1 < back.size()) {
        size_t next = kept + 1;
        while (next + 1 < back.size() && !back[next].low && !back[next + 1].low &&
               straight_part(ground, back_fragments[kept], back[kept].at, back[next + 1].at - back[kept].at,
                             true) >= 1)
            ++next;
        path.length_m += glm::length(back[next].at - back[kept].at);
        path.points.push_back(back[next]);
        kept = next;
    }
    return path;
}

namespace {

/// Sideways drift at a corner that is taken without stopping (metres).
constexpr double k_corner_drift_m = 0.004;

class Walker {
public:
    /// A careful walker comes to rest at every corner, so that none is cut.
    Walker(Recorder& recorder, const Character& character, const Path& path, bool careful)
        : r_(recorder),
          c_(character),
          path_(path),
          careful_(careful) {}

    bool run() {
        for (size_t i = 1; i < path_.points.size(); ++i) {
            const bool stop = careful_ || i + 1 == path_.points.size();
            if (!go(i, stop ? 0 : passing_speed(i))) return false;
            if (stop && !rest_at(path_.points[i])) return false;
        }
        return true;
    }

private:
    double passing_speed(size_t i) const {
        const Vec2 in = path_.points[i].at - path_.points[i - 1].at,
                   out = path_.points[i + 1].at - path_.points[i].at;
        const double sizes = glm::length(in) * glm::length(out);
        if (sizes < 1e-12) return 0.3;
        const double sine = std::abs(cross(in, out)) / sizes;
        const double drift_speed = std::sqrt(2 * c_.ground_acceleration_mps2 * k_corner_drift_m);
        if (glm::dot(in, out) < 0) return std::min(drift_speed, c_.run_speed_mps);
        return std::min(c_.run_speed_mps, drift_speed / std::max(sine, 1e-3));
    }

    bool crouches_near(size_t i) const {
        if (path_.points[i].low) return true;
        const double ahead = glm::length(path_.points[i].at - flat(r_.state().at));
        return i + 1 < path_.points.size() && path_.points[i + 1].low && ahead < c_.radius_m + 0.3;
    }

    double top_speed() const { return c_.run_speed_mps * (r_.state().crouched ? 0.5 : 1.0); }

    bool go(size_t i, double passing) {
        const Vec2 target = path_.points[i].at;
        double best = std::numeric_limits<double>::infinity();
        int patience = 0;
        for (int n = 0; n < 120 * 600; ++n) {
            const motion::State& s = r_.state();
            const Vec2 to = target - flat(s.at);
            const double left = glm::length(to);
            if (left < (passing > 0 ? 0.02 : 0.006)) return true;
            if (passing > 0 && left < 0.15 && glm::dot(to, flat(s.velocity)) < 0) return true;
            if (!s.standing || s.dead) {
                if (++patience > 40 || s.dead) return false;
            } else if (left < best - 1e-4) {
                best = left, patience = 0;
            } else if (++patience > 90) {
                return false;
            }
            // Comes in slowly enough to stop short: what is left is made from rest, without overshooting an
            // edge.
            const double a = (passing > 0 ? 0.6 : 0.35) * c_.ground_acceleration_mps2;
            const double margin = passing > 0 ? 0 : 0.004;
            const double speed =
                std::min(top_speed(), std::sqrt(2 * a * std::max(left - margin, 0.0) + passing * passing));
            const double goal_speed = std::min(speed, left / step_s);
            advance(to / left * goal_speed, crouches_near(i));
        }
        return false;
    }

    bool rest_at(const Path::Point& point) {
        const Vec2 target = point.at;
        const bool low = point.low;
        const double one_step = 0.9 * c_.ground_acceleration_mps2 * step_s * step_s;
        for (int n = 0; n < 600; ++n) {
            const motion::State& s = r_.state();
            if (!s.standing) return false;
            const Vec2 to = target - flat(s.at);
            const double left = glm::length(to);
            if (glm::length(s.velocity) > tolerance::still_mps) {
                advance(Vec2(0), low);
            } else if (left < tolerance::at_rest_there_m) {
                return true;
            } else {
                // From rest, one step towards a velocity w and one of braking make exactly w·dt.
                const double way = std::min(left, one_step);
                advance(to / left * (way / step_s), low);
            }
        }
        return false;
    }

    void advance(Vec2 velocity, bool crouch) {
        Input input;
        input.stick = velocity / top_speed();
        input.crouch = crouch;
        r_.advance(input);
    }

    Recorder& r_;
    const Character& c_;
    const Path& path_;
    bool careful_;
};

} // namespace

bool walk_path(Recorder& recorder, const Character& character, const Path& path) {
    const Recorder before = recorder;
    for (const bool careful : {false, true}) {
        recorder = before;
        if (Walker(recorder, character, path, careful).run()) return true;
    }
    return false;
}

namespace {

/// The step from one fragment of a path into the next that is nearest to a place.
std::optional<std::pair<int, int>> way_near(const Ground& ground, const Path& path, Vec2 at) {
    std::optional<std::pair<int, int>> nearest;
    double least = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i + 1 < path.fragments.size(); ++i)
        for (const Portal& portal : ground.fragments[size_t(path.fragments[i])].portals) {
            if (portal.to != path.fragments[i + 1]) continue;
            const double apart = glm::length(portal.middle() - at);
            if (apart < least) least = apart, nearest = {path.fragments[i], portal.to};
        }
    return nearest;
}

} // namespace

bool walk_to(Recorder& recorder, const Ground& ground, const Character& character, int fragment, Vec2 to) {
    if (ground.cells) return walk_by_cells(recorder, ground, fragment);
    constexpr double feet_m = 0.05;
    constexpr int k_most_ways = 8;
    const Recorder before = recorder;
    const int here = ground.locate(recorder.state().at, feet_m);
    if (here < 0 || fragment < 0) return false;
    ClosedWays closed;
    for (int i = 0; i < k_most_ways; ++i) {
        const auto path = find_path(ground, here, flat(before.state().at), fragment, to, closed);
        if (!path) return false;
        recorder = before;
        if (walk_path(recorder, character, *path)) return true;
        const auto stuck = way_near(ground, *path, flat(recorder.state().at));
        if (!stuck) return false;
        closed.insert(*stuck);
        closed.insert({stuck->second, stuck->first});
    }
    return false;
}

bool brake(Recorder& recorder, int most_steps) {
    for (int i = 0; i < most_steps; ++i) {
        const motion::State& s = recorder.state();
        if (s.dead) return false;
        if (s.standing && glm::length(s.velocity) <= tolerance::still_mps) return true;
        recorder.advance(Input{Vec2(0), false, s.crouched, false});
    }
    return false;
}

} // namespace rubble::check
