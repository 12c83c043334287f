#include "check/flight.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"

namespace rubble::check {

namespace {

/// Time of one jump that lands at rise h, h at most the jump height.
double one_jump(const Character& c, double h) {
    const double rise_time = std::sqrt(2 * c.jump_height_m / c.gravity_up_mps2);
    return rise_time + fall_time(c, c.jump_height_m - h);
}

} // namespace

double highest_rise(const Character& c) { return (c.further_jumps + 1) * c.jump_height_m; }

double fall_time(const Character& c, double drop) {
    drop = std::max(drop, 0.0);
    const double g = c.gravity_down_mps2, v = c.terminal_speed_mps;
    const double until_terminal = v * v / (2 * g);
    if (drop <= until_terminal) return std::sqrt(2 * drop / g);
    return v / g + (drop - until_terminal) / v;
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
    const double highest = highest_rise(c) + tolerance::limit_m;
    for (double rise = lowest_; rise <= highest; rise = lowest_ + k_step_m * double(by_rise_.size())) {
        double time = fall_time(c, -rise);
        if (const auto jump = flight_time(c, rise)) time = std::max(time, *jump);
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

double longest_step_off(const Character& c, double drop, double run_up) {
    return way_in_air(c, run_up_speed(c, run_up), fall_time(c, drop)) + 2 * overhang_m(c);
}

} // namespace rubble::check
