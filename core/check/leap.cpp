#include "check/leap.h"

#include <array>
#include <cmath>

#include <boost/container/small_vector.hpp>

#include "base/tolerance.h"
#include "check/flight.h"
#include "check/leap_limits.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Input;
using motion::Recorder;
using motion::State;
using motion::step_s;
using motion::World;

namespace {

/// Take-offs and landings keep this far inside the edges that they use (metres).
constexpr double k_inside_m = 0.001;
/// A flight that has fallen this far below all of its ledge, or stays this far from it, has missed it
/// (metres).
constexpr double k_missed_m = 0.05;
/// One who pulls up presses against the face as if to get this far beyond it, and arrives this much higher
/// than the lowest that would do (metres).
constexpr double k_press_m = 0.05, k_grip_spare_m = 0.002;
/// A jump that ends below a ceiling keeps this far from it (metres).
constexpr double k_under_ceiling_m = 0.001;

/// A run-up from rest: a first step with part of the acceleration, then full ones; the middle travels
/// exactly `way` and leaves with `speed`.
struct RunUp {
    double first = 0; ///< part of one step's acceleration
    int full = 0;
    double way = 0, speed = 0;
};

RunUp run_up_to_speed(const Character& c, double speed) {
    const double unit = c.ground_acceleration_mps2 * step_s;
    RunUp run;
    const double steps = std::min(speed, c.run_speed_mps) / unit;
    run.full = int(std::floor(steps + 1e-9));
    run.first = std::max(0.0, steps - run.full);
    if (run.first < 1e-6) run.first = 0;
    const double f = run.first, k = run.full;
    run.way = unit * step_s * (f - f * f / 2 + f * k + k * k / 2);
    run.speed = (f + k) * unit;
    return run;
}

/// The fastest run-up that fits into a length.
RunUp run_up_within(const Character& c, double length) {
    const double unit = c.ground_acceleration_mps2 * step_s * step_s;
    const double k = std::floor(std::sqrt(2 * std::max(length, 0.0) / unit));
    const double under = (1 + k) * (1 + k) + k * k - 2 * length / unit;
    const double f = std::clamp((1 + k) - std::sqrt(std::max(under, 0.0)), 0.0, 1.0);
    return run_up_to_speed(c, std::min(c.run_speed_mps, (f + k) * c.ground_acceleration_mps2 * step_s));
}

struct Try {
    bool jump = true;
    int further = 0;             ///< further jumps used
    double speed = 0;            ///< wanted at the take-off
    double deeper = 0;           ///< aims this far beyond the landing place
    bool duck = false;           ///< crouches in the air
    bool crawl = false;          ///< leaves crouched, from under something low
    bool late = false;           ///< jumps as late after the edge as the grace allows
    std::optional<Hop> hop = {}; ///< the way up and down, where it is not that of a free jump
    double pull_m = 0;           ///< arrives at the face of the landing this far below it, and pulls up
    bool operator==(const Try&) const = default;
};

class Leaper {
public:
    Leaper(const Ground& ground, const World& world, const Character& c, const LeapPlan& plan)
        : g_(ground),
          w_(world),
          c_(c),
          plan_(plan),
          wanted_(ground.ledges[size_t(ground.fragments[size_t(plan.to_fragment)].ledge)]) {}

    /// Crouches and presses jump on a one-way deck, and falls through it.
    std::optional<Link> fall_through() const {
        Recorder recorder(w_, c_, motion::state_at(w_, c_, plan_.take_off));
        if (!recorder.state().standing) return {};
        Link link;
        link.kind = LinkKind::drop;
        link.from = from_ledge();
        link.start = link.take_off = recorder.state().at;
        recorder.advance({Vec2(0), false, true, false});
        recorder.advance({Vec2(0), true, true, false});
        if (recorder.state().standing) return {};
        if (fly(recorder, Try{false}) == Flight::missed) return {};
        link.landing = recorder.state().at;
        return came_to_rest(recorder, std::move(link));
    }

    std::optional<Link> attempt(Try how) {
        const double room =
            run_up_m(g_, plan_.from_fragment, flat(plan_.take_off), plan_.direction,
                     c_.run_speed_mps * c_.run_speed_mps / (2 * c_.ground_acceleration_mps2) + 0.02);
        RunUp run = run_up_to_speed(c_, how.speed);
        if (run.way > room) run = run_up_within(c_, std::max(room - k_inside_m, 0.0));
        // What one would do with more room may be what was tried already.
        how.speed = run.speed;
        if (std::find(tried_.begin(), tried_.end(), how) != tried_.end()) return {};
        tried_.push_back(how);
        const Vec2 edge = flat(plan_.take_off) - plan_.direction * (how.jump ? k_inside_m : 0.0);
        const Vec2 begin = edge - plan_.direction * run.way;
        const int fragment = g_.locate(raised(begin, plan_.take_off.z), 1.0);
        if (fragment < 0 || g_.fragments[size_t(fragment)].ledge != from_ledge()) return {};
        if (g_.fragments[size_t(fragment)].low && !how.crawl) return {}; // one would come there crouched
        if (geometry::distance(g_.fragments[size_t(fragment)].area, begin) > 1e-6)
            return {}; // not free of walls
        const State rest = motion::state_at(w_, c_, raised(begin, g_.feet_at(fragment, begin)));
        if (!rest.standing || std::abs(rest.at.z - g_.feet_at(fragment, begin)) > 0.05) return {};

        Link link;
        link.from = from_ledge();
        link.start = rest.at;
        if (!how.late && blocked(edge, rest.at.z, run, how)) return {};
        const std::optional<Recorder>& left = left_ground(rest, run, how);
        if (!left) return {};
        Recorder recorder = *left;
        link.take_off = recorder.state().at;
        const Flight flight = fly(recorder, how);
        if (flight == Flight::missed) return {};
        link.landing = recorder.state().at;
        const auto arrived = came_to_rest(recorder, std::move(link));
        if (!arrived) return {};
        link = *arrived;
        const double apart = glm::length(flat(link.landing) - flat(link.take_off));
        if (flight == Flight::pulled_up)
            link.kind = LinkKind::pull_up;
        else if (how.jump)
            link.kind = how.further > 0 ? LinkKind::further_jump : LinkKind::jump;
        else if (plan_.apart_m <= 2 * tolerance::touching_m || apart < 2 * c_.radius_m)
            link.kind = LinkKind::drop;
        else
            link.kind = LinkKind::step_off;
        return link;
    }

private:
    /// The link with where it leads to; nothing where that is nowhere else.
    std::optional<Link> came_to_rest(Recorder& recorder, Link link) const {
        if (!brake(recorder)) return {};
        link.rest = recorder.state().at;
        link.recording = recorder.recording();
        link.visited = recorder.visited();
        link.to = g_.ledge_at(link.rest, 0.05);
        if (link.to < 0 || link.to == link.from) return {};
        return link;
    }

    int from_ledge() const { return g_.fragments[size_t(plan_.from_fragment)].ledge; }

    /// Whether matter stands in the middle of the flight: a look at some places of the free arc, which spares
    /// stepping through the whole of it. The end, where one slides up a wall or ducks, is left to the motion.
    bool blocked(Vec2 edge, double feet, const RunUp& run, const Try& how) const {
        if (how.further > 0 || plan_.apart_m < 0.3) return false;
        const Hop hop = how.hop ? *how.hop : how.jump ? hop_of(c_, -1) : Hop{};
        const double height = how.duck ? c_.crouched_height_m : c_.height_m;
        for (double way = 0.1; way < plan_.apart_m - 0.1; way += 0.2) {
            const double v = std::max(run.speed, 0.1);
            // The time at which the middle has made this way, with the air's help where the speed is too low.
            double time = way / v;
            if (how.deeper + plan_.apart_m > v * 0.3 && c_.air_acceleration_mps2 > 0 &&
                v < c_.run_speed_mps) {
                const double a = c_.air_acceleration_mps2;
                time = (-v + std::sqrt(v * v + 2 * a * way)) / a;
            }
            const double z = hop.height_at(c_, time);
            const Vec2 p = edge + plan_.direction * way;
            const motion::Body body{raised(p, feet + z + 0.15), c_.radius_m - 0.1,
                                    std::max(height - 0.3, 0.1)};
            if (motion::overlap_m(w_, body) > 0) return true;
        }
        return false;
    }

    /// The run from rest until the ground is left; many tries have it in common. Nothing where it fails.
    const std::optional<Recorder>& left_ground(const State& rest, const RunUp& run, const Try& how) {
        const LeftGround wanted{rest.at, run.speed, how.jump, how.late, how.crawl, {}};
        for (const LeftGround& known : left_ground_)
            if (known.alike(wanted)) return known.run;
        left_ground_.push_back(wanted);
        Recorder recorder(w_, c_, rest);
        if (how.crawl) recorder.advance({Vec2(0), false, true, false});
        if (take_off(recorder, run, how)) left_ground_.back().run = std::move(recorder);
        return left_ground_.back().run;
    }

    /// Runs to the edge and leaves it, by a jump or by walking on.
    bool take_off(Recorder& recorder, const RunUp& run, const Try& how) const {
        const double unit = c_.ground_acceleration_mps2 * step_s;
        const int steps = run.full + (run.first > 0 ? 1 : 0);
        for (int i = 0; i < steps; ++i) {
            const bool partly = i == 0 && run.first > 0;
            const double to_speed =
                partly ? run.first * unit
                       : std::min(run.speed, (run.first + i + (run.first > 0 ? 0 : 1)) * unit);
            Input input{plan_.direction * (to_speed / c_.run_speed_mps), false, false, false};
            input.jump = how.jump && !how.late && i + 1 == steps;
            recorder.advance(input);
            if (recorder.state().dead) return false;
        }
        if (how.late) return jump_late(recorder);
        if (how.jump) {
            if (steps == 0) recorder.advance({Vec2(0), true, false, false});
            return recorder.state().velocity.z > 0;
        }
        const double pace = how.crawl ? 0.4 : std::max(run.speed, 0.3) / c_.run_speed_mps;
        // Past the edge by the whole bottom at most; whoever still stands then walked on.
        const double way = 2 * c_.radius_m + 0.2;
        const int most = int(2 * way / (pace * c_.run_speed_mps * step_s)) + 4;
        for (int i = 0; i < most && recorder.state().standing; ++i)
            recorder.advance({plan_.direction * pace, false, how.crawl, false});
        return !recorder.state().standing && !recorder.state().dead;
    }

    /// Runs on over the edge and jumps with the last step that the grace allows.
    bool jump_late(Recorder& recorder) const {
        for (int i = 0; i < 240; ++i) {
            const State& s = recorder.state();
            const bool last = !s.standing && s.off_ground_s + 2.5 * step_s > c_.late_jump_grace_s;
            recorder.advance({plan_.direction, last, false, false});
            if (recorder.state().dead) return false;
            if (last) return recorder.state().velocity.z > 0;
        }
        return false;
    }

    enum class Flight { missed, landed, pulled_up };

    /// Steers to the landing place until the figure stands.
    Flight fly(Recorder& recorder, const Try& how) const {
        // Whoever pulls up steers at the face and keeps pressing against it.
        const Vec2 aim = flat(plan_.landing) + plan_.direction * (how.pull_m > 0 ? k_press_m : how.deeper);
        const double landing_z = plan_.landing.z - how.pull_m;
        bool pulled = false;
        int jumps_left = how.further;
        bool release = false;
        const double begin = recorder.state().at.z;
        for (int i = 0; i < 120 * 8; ++i) {
            const State& s = recorder.state();
            if (s.dead) return Flight::missed;
            if (s.standing) return pulled ? Flight::pulled_up : Flight::landed;
            pulled |= s.pull_steps > 0;
            if (jumps_left == 0 && s.velocity.z < 0 && is_missed(s)) return Flight::missed;
            Input input;
            auto time = time_to_fall_to(c_, s.at.z, s.velocity.z, landing_z);
            if (how.hop && s.velocity.z > 0)
                if (const auto whole = how.hop->time_to(c_, landing_z - begin))
                    time = std::max(*whole - i * step_s, step_s);
            const Vec2 to = aim - flat(s.at);
            Vec2 wanted = time && *time > step_s              ? to / *time
                          : glm::dot(to, plan_.direction) > 0 ? to / step_s
                                                              : flat(s.velocity);
            if (jumps_left > 0 || !time) wanted = plan_.direction * c_.run_speed_mps;
            const double size = glm::length(wanted);
            input.stick = size > c_.run_speed_mps ? wanted / size : wanted / c_.run_speed_mps;
            input.jump = s.rising_by_jump && (!how.hop || how.hop->held_steps < 0 || i < how.hop->held_steps);
            input.crouch = how.duck || how.crawl;
            // Whoever ducks is slow on the stick; without it the speed stays as it is.
            if (how.duck && glm::length(input.stick) > 0.5) input.stick = Vec2(0);
            // The next jump begins where each of them has had its equal part of the rise.
            const double part =
                begin + (landing_z - begin) * double(how.further - jumps_left + 1) / double(how.further + 1);
            // A key that is held must be let go first, for one step; about the apex that costs nothing. A
            // step later the next jump would begin too low.
            constexpr int k_steps_ahead = 3;
            const double soon = k_steps_ahead * step_s;
            const double soon_z = s.at.z + s.velocity.z * soon - c_.gravity_down_mps2 * soon * soon / 2;
            const bool about_apex = s.velocity.z <= 1.5 * step_s * c_.gravity_up_mps2;
            if (jumps_left > 0 && release) {
                input.jump = true;
                --jumps_left, release = false;
            } else if (jumps_left > 0 && about_apex) {
                input.jump = false;
                release = soon_z <= part;
            }
            recorder.advance(input);
        }
        return Flight::missed;
    }

    /// Whether one who falls can no longer come to the wanted ledge: he is below all of it, or it is farther
    /// away than he gets before he is.
    bool is_missed(const State& s) const {
        const double lowest = wanted_.box.low.z - c_.pull_up_m - k_missed_m;
        const auto time = time_to_fall_to(c_, s.at.z, s.velocity.z, lowest);
        if (!time) return true;
        const Vec2 to = glm::max(
            glm::max(flat(wanted_.box.low) - flat(s.at), flat(s.at) - flat(wanted_.box.high)), Vec2(0));
        const double speed = glm::length(flat(s.velocity));
        return glm::length(to) > way_in_air(c_, speed, *time) + k_missed_m;
    }

    const Ground& g_;
    const World& w_;
    const Character& c_;
    const LeapPlan& plan_;
    const Ledge& wanted_;
    struct LeftGround {
        Vec3 rest;
        double speed;
        bool jump, late, crawl;
        std::optional<Recorder> run;
        bool alike(const LeftGround& other) const {
            return rest == other.rest && speed == other.speed && jump == other.jump && late == other.late &&
                   crawl == other.crawl;
        }
    };
    boost::container::small_vector<LeftGround, 8> left_ground_;
    boost::container::small_vector<Try, 16> tried_;
};

/// Tries that arrive at the face below the landing, by a step off or a jump.
std::optional<Link> pull_up(const Character& c, const LeapPlan& plan, const auto& attempt) {
    if (c.pull_up_m <= 0) return {};
    const double below = std::max(c.pull_up_m - k_grip_spare_m, c.pull_up_m / 2);
    const double rise = plan.landing.z - plan.take_off.z - below;
    Try how{false};
    how.pull_m = below;
    const auto with_time = [&](double time) -> std::optional<Link> {
        if (plan.apart_m > way_in_air(c, c.run_speed_mps, time) + leap_benefit_m) return {};
        const double needed = plan.apart_m / std::max(time, step_s);
        for (const double speed : {std::min(needed, c.run_speed_mps), c.run_speed_mps}) {
            how.speed = speed;
            if (auto link = attempt(how)) return link;
        }
        return {};
    };
    if (rise < 0)
        if (auto link = with_time(fall_time(c, -rise))) return link;
    how.jump = true;
    Character once = c;
    for (int further = 0; further <= int(c.further_jumps); ++further) {
        once.further_jumps = how.further = further;
        const double within = std::min(rise, highest_rise(once)); // the grip's spare decides at the very top
        if (rise > within + k_grip_spare_m) continue;
        if (const auto time = flight_time(once, within))
            if (auto link = with_time(*time)) return link;
    }
    return {};
}

} // namespace

std::optional<Link> try_leap(const Ground& ground, const World& world, const Character& c,
                             const LeapPlan& plan) {
    Leaper leaper(ground, world, c, plan);
    if (plan.through) return leaper.fall_through();
    const double rise = plan.landing.z - plan.take_off.z;
    const Fragment& target = ground.fragments[size_t(plan.to_fragment)];
    const int wanted = target.ledge;
    // How much deeper than its nearest place the landing may lie.
    const double depth =
        0.6 * straight_part(ground, plan.to_fragment, flat(plan.landing), plan.direction * 0.6, false);
    const double deeper = std::min(0.25, depth / 2);
    std::optional<Link> elsewhere;
    auto attempt = [&](const Try& how) -> std::optional<Link> {
        auto link = leaper.attempt(how);
        if (link && link->to == wanted) return link;
        if (link && !elsewhere) elsewhere = link;
        return {};
    };
    if (ground.fragments[size_t(plan.from_fragment)].low)
        return rise < 0 ? attempt({false, 0, 0, 0, false, true}) : std::nullopt;
    if (rise < 0) {
        const double time = fall_time(c, -rise);
        const double needed = (plan.apart_m + deeper) / std::max(time, 1e-3);
        if (plan.apart_m <= way_in_air(c, c.run_speed_mps, time) + leap_benefit_m)
            for (const double speed : {std::min(needed, c.run_speed_mps), c.run_speed_mps})
                if (auto link = attempt({false, 0, speed, deeper})) return link;
    }
    Character once = c;
    for (int further = 0; further <= int(c.further_jumps); ++further) {
        once.further_jumps = further;
        const auto time = flight_time(once, rise);
        if (c.late_jump_grace_s > 0 && time)
            if (auto link = attempt({true, further, c.run_speed_mps, deeper, false, false, true}))
                return link;
        if (!time || plan.apart_m > way_in_air(c, c.run_speed_mps, *time) + leap_benefit_m) continue;
        const double needed = std::min((plan.apart_m + deeper) / *time, c.run_speed_mps);
        const std::array tries{Try{true, further, needed, deeper},
                               Try{true, further, c.run_speed_mps, deeper},
                               Try{true, further, c.run_speed_mps, 0},
                               Try{true, further, 0, depth},
                               Try{true, further, c.run_speed_mps, deeper, true},
                               Try{true, further, needed, deeper, true}};
        for (const Try& how : tries) {
            if (how.duck && c.crouched_height_m <= 0) continue;
            if (auto link = attempt(how)) return link;
        }
    }
    if (auto link = pull_up(c, plan, attempt)) return link;
    if (c.jump_height_m <= 0) return elsewhere;
    // Lower jumps: under a ceiling, and where a fall from the apex would kill.
    const double survived = c.survived_fall_m + rise;
    for (const bool duck : {false, true}) {
        if (duck && c.crouched_height_m <= 0) continue;
        const double room = room_over_way(world, c, plan.take_off, plan.landing,
                                          duck ? c.crouched_height_m : c.height_m, c.jump_height_m);
        if (room >= c.jump_height_m && survived >= c.jump_height_m) continue;
        std::vector<Hop> hops;
        if (auto below = highest_hop_below(c, std::min(room - k_under_ceiling_m, survived)))
            hops.push_back(*below);
        if (room <= survived) hops.push_back(hop_of(c, -1, room));
        for (const Hop& hop : hops) {
            const auto time = hop.time_to(c, rise);
            if (!time || plan.apart_m > way_in_air(c, c.run_speed_mps, *time) + leap_benefit_m) continue;
            const double needed = std::min((plan.apart_m + deeper) / *time, c.run_speed_mps);
            for (const auto& [speed, depth] :
                 {std::pair{needed, deeper}, {c.run_speed_mps, deeper}, {c.run_speed_mps, 0.0}})
                if (auto link = attempt({true, 0, speed, depth, duck, false, false, hop})) return link;
        }
    }
    return elsewhere;
}

} // namespace rubble::check
