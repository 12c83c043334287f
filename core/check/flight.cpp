#include "check/flight.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "motion/step.h"

namespace rubble::check {

namespace {

/// Time of one jump that lands at rise h, h at most the jump height.
double one_jump(const Character& c, double h) {
    const double rise_time = std::sqrt(2 * c.jump_height_m / c.gravity_up_mps2);
    return rise_time + fall_time(c, c.jump_height_m - h);
}

} // namespace

double highest_rise(const Character& c) { return (c.further_jumps + 1) * c.jump_height_m; }

double highest_ledge(const Character& c) { return highest_rise(c) + std::max(c.pull_up_m, 0.0); }

namespace {

double low_gravity(const Character& c) {
    return c.gravity_up_mps2 * std::max(1.0, c.jump_height_m / std::max(c.low_jump_height_m, 1e-6));
}

/// Time to rise by `way` from speed `v` against `g`; nothing where that is above its apex.
std::optional<double> rise_time(double v, double g, double way) {
    const double under = v * v - 2 * g * way;
    return under < 0 ? std::nullopt : std::optional((v - std::sqrt(under)) / g);
}

} // namespace

Hop hop_of(const Character& c, int held_steps, double ceiling) {
    Hop hop;
    hop.held_steps = held_steps, hop.ceiling_m = std::max(ceiling, 0.0);
    const double g = c.gravity_up_mps2, low = low_gravity(c);
    const double up = std::sqrt(2 * g * c.jump_height_m);
    const double held_s = held_steps < 0 ? up / g : std::min(held_steps * motion::step_s, up / g);
    const double let_go_m = up * held_s - g * held_s * held_s / 2, v = up - g * held_s;
    hop.apex_m = let_go_m + v * v / (2 * low);
    hop.rise_s = held_s + v / low;
    if (hop.apex_m > hop.ceiling_m) {
        hop.apex_m = hop.ceiling_m;
        hop.rise_s = hop.ceiling_m <= let_go_m
                         ? rise_time(up, g, hop.ceiling_m).value_or(held_s)
                         : held_s + rise_time(v, low, hop.ceiling_m - let_go_m).value_or(v / low);
    }
    return hop;
}

std::optional<Hop> highest_hop_below(const Character& c, double most) {
    const double up = std::sqrt(2 * c.gravity_up_mps2 * c.jump_height_m);
    for (int held = int(std::ceil(up / c.gravity_up_mps2 / motion::step_s)); held >= 0; --held)
        if (const Hop hop = hop_of(c, held); hop.apex_m <= most) return hop;
    return {};
}

std::optional<double> Hop::time_to(const Character& c, double rise) const {
    if (rise > apex_m + tolerance::limit_m) return {};
    return rise_s + fall_time(c, apex_m - rise);
}

double Hop::height_at(const Character& c, double time) const {
    if (time >= rise_s) {
        const double falling = time - rise_s;
        return apex_m - c.gravity_down_mps2 * falling * falling / 2;
    }
    const double g = c.gravity_up_mps2, up = std::sqrt(2 * g * c.jump_height_m);
    const double held_s = held_steps < 0 ? up / g : std::min(held_steps * motion::step_s, up / g);
    if (time <= held_s) return up * time - g * time * time / 2;
    const double after = time - held_s, v = up - g * held_s;
    return up * held_s - g * held_s * held_s / 2 + v * after - low_gravity(c) * after * after / 2;
}

double fall_time(const Character& c, double drop) {
    drop = std::max(drop, 0.0);
    const double g = c.gravity_down_mps2, v = c.terminal_speed_mps;
    const double until_terminal = v * v / (2 * g);
    if (drop <= until_terminal) return std::sqrt(2 * drop / g);
    return v / g + (drop - until_terminal) / v;
}

std::optional<double> time_to_fall_to(const Character& c, double z, double velocity, double height) {
    if (velocity > 0) {
        const double t = velocity / c.gravity_up_mps2;
        z += velocity * t / 2;
        if (z < height) return {};
        return t + fall_time(c, z - height);
    }
    const double v = -velocity, g = c.gravity_down_mps2;
    if (z < height) return {};
    return (-v + std::sqrt(v * v + 2 * g * (z - height))) / g;
}

std::optional<double> flight_time(const Character& c, double rise) {
    if (c.jump_height_m <= 0 || rise > highest_rise(c) + tolerance::limit_m) return {};
    // The time of one jump is concave in its rise, so equal parts of the rise last longest.
    const double jumps = c.further_jumps + 1;
    return jumps * one_jump(c, std::min(rise / jumps, c.jump_height_m));
}

double run_up_speed(const Character& c, double way) {
    return std::min(c.run_speed_mps, std::sqrt(2 * c.ground_acceleration_mps2 * std::max(way, 0.0)));
}

double way_in_air(const Character& c, double speed, double time) {
    const double a = c.air_acceleration_mps2, v = c.run_speed_mps;
    const double until_full = a > 0 ? std::min(time, (v - speed) / a) : time;
    if (a <= 0) return speed * time;
    return speed * until_full + a * until_full * until_full / 2 + v * (time - until_full);
}

FlightRange::FlightRange(const Character& c)
    : lowest_(-std::max(c.survived_fall_m, 0.0) - tolerance::limit_m) {
    // Longest at the lower end of each step: a flight lasts the longer the deeper it leads.
    constexpr double k_benefit_m = 0.1;
    const double highest = highest_ledge(c) + tolerance::limit_m, pull = std::max(c.pull_up_m, 0.0);
    for (double rise = lowest_; rise <= highest; rise = lowest_ + k_step_m * double(by_rise_.size())) {
        double time = fall_time(c, pull - rise);
        if (const auto jump = flight_time(c, rise - pull)) time = std::max(time, *jump);
        by_rise_.push_back(c.run_speed_mps * (time + c.late_jump_grace_s) + k_benefit_m);
    }
    farthest_ = by_rise_.empty() ? 0 : by_rise_.front();
}

double overhang_m(const Character& c) { return c.radius_m - c.least_support_m; }

std::optional<double> longest_gap(const Character& c, double rise, double run_up) {
    const auto time = flight_time(c, rise);
    if (!time) return {};
    return way_in_air(c, run_up_speed(c, run_up), *time) + 2 * overhang_m(c);
}

std::optional<double> longest_gap(const Character& c, double rise) { return longest_gap(c, rise, 1e9); }

std::optional<double> longest_gap_pulling(const Character& c, double rise, double run_up) {
    const double pull = std::max(c.pull_up_m, 0.0);
    auto longest = longest_gap(c, rise - pull, run_up);
    if (rise < pull) longest = std::max(longest.value_or(0), longest_step_off(c, pull - rise, run_up));
    return longest;
}

std::optional<double> longest_gap_below(const Character& c, double rise, double run_up, double room) {
    const double survived = c.survived_fall_m + rise;
    if (c.jump_height_m <= 0) return {};
    if (room >= c.jump_height_m && survived >= c.jump_height_m) return longest_gap(c, rise, run_up);
    std::optional<double> time;
    const auto offer = [&](const Hop& hop) {
        if (const auto t = hop.time_to(c, rise)) time = std::max(time.value_or(0), *t);
    };
    if (const auto hop = highest_hop_below(c, std::min(room, survived))) offer(*hop);
    if (room <= survived) offer(hop_of(c, -1, room));
    if (!time) return {};
    return way_in_air(c, run_up_speed(c, run_up), *time) + 2 * overhang_m(c);
}

double longest_step_off(const Character& c, double drop, double run_up) {
    return way_in_air(c, run_up_speed(c, run_up), fall_time(c, drop)) + 2 * overhang_m(c);
}

} // namespace rubble::check
