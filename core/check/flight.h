#pragma once

#include <optional>
#include <vector>

#include "level/character.h"

namespace rubble::check {

/// Closed forms of flight: metres, seconds. Rises are landing ground less take-off ground, up positive.
/// Derivations: docs/motion.md, "Flight".

/// Height of the apex over the take-off with all further jumps used.
double highest_rise(const Character& c);
/// Height of the highest ledge: the apex, and what one pulls oneself up from there.
double highest_ledge(const Character& c);
/// Time from take-off to landing at `rise_m`, all further jumps used at their best; nothing above the apex.
std::optional<double> flight_time(const Character& c, double rise_m);
/// The way up and down of a jump that does not rise as high as it might: under a ceiling, or with the key let
/// go. Heights of the feet over the take-off; source: docs/motion.md, "Flight".
struct Hop {
    int held_steps = -1;    ///< steps for which the key is held after the take-off; -1: to the apex
    double ceiling_m = 1e9; ///< the feet get no higher; what would, falls from there
    double apex_m = 0;
    double rise_s = 0; ///< until the apex
    /// Until the feet come down to a rise; nothing where it is above the apex.
    std::optional<double> time_to(const Character& c, double rise_m) const;
    /// Height after a time.
    double height_at(const Character& c, double time_s) const;
    bool operator==(const Hop&) const = default;
};
/// With the key held for so many steps, or to the apex, below a ceiling.
Hop hop_of(const Character& c, int held_steps, double ceiling_m = 1e9);
/// The highest one whose feet stay at or below a height, by letting go of the key; nothing where even the
/// lowest jump is higher.
std::optional<Hop> highest_hop_below(const Character& c, double most_m);

/// Time to fall by `drop_m` from rest, slower than the fastest fall.
double fall_time(const Character& c, double drop_m);

/// Time until feet at a height, with a vertical speed, come down to another; nothing where they do not get
/// that high.
std::optional<double> time_to_fall_to(const Character& c, double feet_z, double velocity_z, double height);

/// Speed reached at the end of a run-up of `way_m` from rest on the ground.
double run_up_speed(const Character& c, double way_m);
/// Way made in the air in `time_s` with the stick held forward, from `speed` on.
double way_in_air(const Character& c, double speed, double time_s);

/// Longest gap between ground edges that a jump clears, after a run-up whose middle travels `run_up_m`
/// before the take-off. Nothing where the landing is above the apex.
std::optional<double> longest_gap(const Character& c, double rise_m, double run_up_m);
/// From a full run.
std::optional<double> longest_gap(const Character& c, double rise_m);
/// The same where one may arrive at the landing's face and pull oneself up; up to the highest ledge.
std::optional<double> longest_gap_pulling(const Character& c, double rise_m, double run_up_m);
/// Longest gap with the feet no more than `room_m` above the take-off, and no farther above the landing than
/// a fall that is survived: a lower jump, or one that ends at the ceiling. Nothing where neither gets there.
std::optional<double> longest_gap_below(const Character& c, double rise_m, double run_up_m, double room_m);
/// Longest gap crossed by walking off an edge `drop_m` above the landing.
double longest_step_off(const Character& c, double drop_m, double run_up_m);
/// How far in plan the middle can get through the air by a jump or a step off, pulling up at the end, by the
/// rise: looked up in steps of k_step_m and never less than the closed form, so that it can rule pairs of
/// places out.
class FlightRange {
public:
    explicit FlightRange(const Character& c);
    /// Over all rises.
    double farthest() const { return farthest_; }
    /// Negative where the rise is above the apex or the fall fatal.
    double at(double rise_m) const {
        const double step = (rise_m - lowest_) / k_step_m;
        return step < 0 || step >= double(by_rise_.size()) ? -1 : by_rise_[size_t(step)];
    }

private:
    static constexpr double k_step_m = 0.1;
    double lowest_ = 0, farthest_ = 0;
    std::vector<double> by_rise_; ///< from the deepest fall on
};

/// How far beyond an edge the middle may be and still stand: radius less least support.
double overhang_m(const Character& c);

} // namespace rubble::check
