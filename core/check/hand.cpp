#include "check/hand.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "base/tolerance.h"
#include "check/flight.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Input;
using motion::Recorder;
using motion::State;
using motion::step_s;

namespace {

/// So much earlier than at the edge a press is tried (seconds); a leap lasts no longer than this (steps).
constexpr double k_earliest_s = 0.5;
constexpr int k_leap_steps = 120 * 8;
/// One aims this far into the landing where it is deep enough (metres).
constexpr double k_aim_m = 0.6;
/// Who runs at full speed wants at least so many steps in which a press leads there.
constexpr int k_least_presses = 3;
/// After these steps of a run-up who is slower than this is stopped by something (metres per second).
constexpr int k_first_steps = 12;
constexpr double k_stopped_mps = 0.2;
/// How eagerly a recorded flight is kept to (per second).
constexpr double k_keep_hz = 4;
/// A turn is known to this (degrees).
constexpr double k_turn_deg = 0.1;

Vec2 turned(Vec2 v, double deg) {
    const auto [c, s] = cos_sin(deg);
    return {v.x * c - v.y * s, v.x * s + v.y * c};
}

Vec2 within_disc(Vec2 stick) {
    const double size = glm::length(stick);
    return size > 1 ? stick / size : stick;
}

/// The inputs one after the other.
std::vector<Input> inputs_of(const motion::Recording& recording) {
    std::vector<Input> out;
    for (const auto& run : recording.runs) out.insert(out.end(), size_t(run.steps), run.input);
    return out;
}

/// The stick in the air that brings a figure to the aim by the time it is down there.
Vec2 steered(const Character& c, const State& s, const Approach& approach, const Hand& hand, LinkKind kind,
             int in_air) {
    const Vec2 ahead = turned(approach.direction, hand.turn_deg);
    const Vec2 to = flat(approach.aim) - flat(s.at);
    const double along = glm::dot(to, ahead);
    const auto time = time_to_fall_to(c, s.at.z, s.velocity.z, approach.aim.z);
    const bool goes_on = !time || *time < step_s || s.jumps_left > 0 || kind == LinkKind::pull_up;
    if (goes_on) return along > 0 || kind == LinkKind::pull_up ? ahead : Vec2(0);
    const Vec2 wanted = in_air < hand.reaction_steps ? ahead * (along / *time) : to / *time;
    return within_disc(wanted / c.run_speed_mps);
}

/// From its beginning, or from a later step of the run-up.
void leap_at_speed(Recorder& recorder, const Character& c, LinkKind kind, const Approach& approach,
                   const Hand& hand, int first = 0) {
    const Vec2 ahead = turned(approach.direction, hand.turn_deg);
    const int press = approach.press < 0 ? k_leap_steps : std::max(approach.press + hand.later_steps, 0);
    bool left = false, let_go = false;
    int in_air = 0;
    for (int i = first; i < k_leap_steps; ++i) {
        const State& s = recorder.state();
        if (s.dead || (left && s.standing)) return;
        if (!s.standing) left = true, ++in_air;
        // Whoever still stands long after the landing was passed walked there.
        if (!left && glm::dot(flat(s.at - approach.aim), ahead) > 0) return;
        Input input;
        input.stick =
            (left ? steered(c, s, approach, hand, kind, in_air) : ahead) * std::min(hand.stick, 1.0);
        input.jump = i == press || (i > press && s.rising_by_jump);
        if (left && kind == LinkKind::further_jump && s.jumps_left > 0 && s.velocity.z <= 0) {
            input.jump = let_go; // a key that was held is let go for a step
            let_go = !let_go;
        }
        recorder.advance(input);
    }
}

/// By the link's recording: off as the hand is, and kept to its flight.
void leap_as_recorded(Recorder& recorder, const Character& c, const Link& link, const Approach& approach,
                      const Hand& hand) {
    std::vector<Input> inputs = inputs_of(link.recording);
    const bool exact = hand.later_steps == 0 && hand.turn_deg == 0 && hand.stick == 1;
    if (exact) {
        for (const Input& input : inputs) recorder.advance(input);
        return;
    }
    const auto planned = motion::replay(recorder.world(), c, link.recording);
    if (approach.press >= 0 && hand.later_steps > 0) {
        const Input before = approach.press > 0 ? inputs[size_t(approach.press) - 1] : Input{};
        inputs.insert(inputs.begin() + approach.press, size_t(hand.later_steps), before);
    } else if (approach.press >= 0 && hand.later_steps < 0) {
        const int fewer = std::min(-hand.later_steps, approach.press);
        inputs.erase(inputs.begin() + (approach.press - fewer), inputs.begin() + approach.press);
    }
    const int shift = int(inputs.size()) - link.recording.steps();
    bool left = false;
    int in_air = 0;
    for (int i = 0; i < int(inputs.size()); ++i) {
        const State& s = recorder.state();
        if (s.dead || (left && s.standing)) return;
        if (!s.standing) left = true, ++in_air;
        Input input = inputs[size_t(i)];
        input.stick = turned(input.stick, hand.turn_deg) * hand.stick;
        const int then = std::clamp(i - shift, 0, int(planned.size()) - 1);
        if (in_air > hand.reaction_steps)
            input.stick += flat(planned[size_t(then)].at - s.at) * (k_keep_hz / c.run_speed_mps);
        input.stick = within_disc(input.stick);
        recorder.advance(input);
    }
}

/// The step with which a link's recording first presses jump; -1 where it never does.
int first_press(const Link& link) {
    int step = 0;
    for (const auto& run : link.recording.runs) {
        if (run.input.jump) return step;
        step += run.steps;
    }
    return -1;
}

/// Tries leaps of one link over and over.
class Trier {
public:
    Trier(const Ground& ground, const motion::World& world, const Character& c, const Link& link)
        : ground_(ground),
          world_(world),
          c_(c),
          link_(link) {}

    /// Where it rests in the end, and after how long; nothing where it does not get to the link's ledge.
    std::optional<double> lands(const Approach& approach, const Hand& hand) const {
        Recorder recorder(world_, c_, motion::state_at(world_, c_, approach.begin));
        if (!recorder.state().standing) return {};
        leap(recorder, c_, link_, approach, hand);
        if (!rests_there(recorder.state())) return {};
        return recorder.recording().seconds();
    }

    std::optional<Approach> at_speed() const {
        const Vec2 way = flat(link_.landing - link_.take_off);
        const double length = glm::length(way);
        if (length < tolerance::touching_m) return {};
        Approach out;
        out.direction = way / length;
        const double full = c_.run_speed_mps * c_.run_speed_mps / (2 * c_.ground_acceleration_mps2);
        const int fragment = ground_.locate(link_.take_off, tolerance::feet_m);
        const int landing = ground_.locate(link_.landing, tolerance::feet_m);
        if (fragment < 0 || landing < 0) return {};
        const double run = run_up_m(ground_, fragment, flat(link_.take_off), out.direction,
                                    full + k_earliest_s * c_.run_speed_mps);
        const Vec2 begin = flat(link_.take_off) - out.direction * std::max(run - tolerance::limit_m, 0.0);
        const int f = ground_.locate(raised(begin, link_.take_off.z), 1.0);
        if (f < 0 || ground_.fragments[size_t(f)].ledge != link_.from || ground_.fragments[size_t(f)].low)
            return {};
        out.begin = raised(begin, ground_.feet_at(f, begin));
        const double depth = straight_part(ground_, landing, flat(link_.landing), out.direction, false);
        out.aim = link_.landing + raised(out.direction * std::min(depth / 2, k_aim_m), 0);
        const bool jumps = link_.kind == LinkKind::jump || link_.kind == LinkKind::further_jump ||
                           (link_.kind == LinkKind::pull_up && first_press(link_) >= 0);
        if (!jumps) return timed(out);
        return with_best_press(out);
    }

    std::optional<Approach> recorded() const {
        Approach out = as_recorded(link_);
        if (!timed(out)) return {};
        if (out.press >= 0) {
            while (out.earliest > -k_most_off && lands(out, {out.earliest - 1})) --out.earliest;
            while (out.latest < k_most_off && lands(out, {out.latest + 1})) ++out.latest;
        }
        return timed(out);
    }

private:
    static constexpr int k_most_off = 60;

    std::optional<Approach> timed(Approach approach) const {
        const auto seconds = lands(approach, {});
        if (!seconds) return {};
        approach.seconds = *seconds;
        return approach;
    }

    /// Presses in the middle of the longest row of steps with which one gets there. Looks at every so many
    /// presses first, as shorter rows do not count, and then at where the longest row ends.
    std::optional<Approach> with_best_press(Approach approach) const {
        const std::vector<motion::PlayState> run = run_up(approach);
        const auto presses = [&](int step) {
            if (step < 0 || step >= int(run.size())) return false;
            Approach tried = approach;
            tried.press = step;
            Recorder recorder(world_, c_, run[size_t(step)]);
            leap_at_speed(recorder, c_, link_.kind, tried, {}, step);
            brake(recorder);
            return rests_there(recorder.state());
        };
        int first = 0, count = 0;
        for (int step = k_least_presses - 1; step < int(run.size()); step += k_least_presses) {
            if (!presses(step)) continue;
            int begin = step, end = step + 1;
            while (presses(begin - 1)) --begin;
            while (presses(end)) ++end;
            if (end - begin > count) first = begin, count = end - begin;
            step = end;
        }
        if (count < k_least_presses) return {}; // luck
        approach.press = first + (count - 1) / 2;
        approach.earliest = first - approach.press;
        approach.latest = first + count - 1 - approach.press;
        return timed(approach);
    }

    /// The states of a run-up until it is too late to jump.
    std::vector<motion::PlayState> run_up(const Approach& approach) const {
        std::vector<motion::PlayState> out;
        Recorder recorder(world_, c_, motion::state_at(world_, c_, approach.begin));
        const double most = c_.late_jump_grace_s + step_s;
        while (int(out.size()) < k_leap_steps) {
            const State& s = recorder.state();
            if (s.dead || (!s.standing && s.off_ground_s > most)) break;
            if (glm::dot(flat(s.at - approach.aim), approach.direction) > 0) break;
            // Whoever stands against the landing has all the time there is.
            const bool stopped = int(out.size()) > k_first_steps && glm::length(s.velocity) < k_stopped_mps;
            if (stopped) break;
            out.push_back(recorder.play());
            recorder.advance({approach.direction, false, false, false});
        }
        return out;
    }

    bool rests_there(const State& s) const {
        return !s.dead && s.standing && ground_.ledge_at(s.at, tolerance::feet_m) == link_.to;
    }

    const Ground& ground_;
    const motion::World& world_;
    const Character& c_;
    const Link& link_;
};

} // namespace

std::optional<Approach> approach_of(const Ground& ground, const motion::World& world, const Character& c,
                                    const Link& link) {
    const Trier trier(ground, world, c, link);
    if (auto fast = trier.at_speed()) return fast;
    return trier.recorded();
}

Approach as_recorded(const Link& link) {
    Approach out;
    out.recorded = true, out.begin = link.start, out.aim = link.landing;
    const Vec2 way = flat(link.landing - link.take_off);
    if (glm::length(way) > 0) out.direction = glm::normalize(way);
    out.press = first_press(link);
    return out;
}

void leap(Recorder& recorder, const Character& c, const Link& link, const Approach& approach,
          const Hand& hand) {
    if (approach.recorded)
        leap_as_recorded(recorder, c, link, approach, hand);
    else
        leap_at_speed(recorder, c, link.kind, approach, hand);
    brake(recorder);
}

double forgiven_turn_deg(const Ground& ground, const motion::World& world, const Character& c,
                         const Link& link, const Approach& approach) {
    const Trier trier(ground, world, c, link);
    double sum = 0;
    for (const double side : {1.0, -1.0}) {
        double good = 0, bad = 45;
        while (bad - good > k_turn_deg) {
            const double middle = (good + bad) / 2;
            Hand hand;
            hand.turn_deg = side * middle;
            (trier.lands(approach, hand) ? good : bad) = middle;
        }
        sum += good;
    }
    return sum;
}

} // namespace rubble::check
