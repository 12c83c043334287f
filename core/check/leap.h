#pragma once

#include <optional>

#include "check/ground.h"
#include "motion/recording.h"

namespace rubble::check {

enum class LinkKind { drop, step_off, jump, further_jump, pull_up };

/// A proven way from one ledge to another: a recording that begins at rest and ends at rest.
struct Link {
    int from = -1, to = -1;
    LinkKind kind = LinkKind::jump;
    Vec3 start{0};    ///< at rest, before the run-up
    Vec3 take_off{0}; ///< the feet when they leave the ground
    Vec3 landing{0};  ///< the feet when they stand again
    Vec3 rest{0};     ///< where it came to rest
    motion::Recording recording;
    motion::Track visited; ///< where the middle of the bottom was
};

/// A place to leave a ledge and a place to arrive on another, with the direction between them.
struct LeapPlan {
    int from_fragment = -1, to_fragment = -1;
    Vec3 take_off{0}; ///< feet
    Vec3 landing{0};
    Vec2 direction{1, 0};
    double apart_m = 0;   ///< between the two places, in plan
    bool through = false; ///< down through the one-way deck that it stands on
    double ease = 0;      ///< what is left of the longest flight, as a part of it; the order of trying
};

/// Ways to leave fragment `from` for fragment `to` that flight allows, easiest first. With `more`, also
/// those that do not start from the nearest pair of places.
void plan_leaps(const Ground& ground, const motion::World& world, const Character& c, int from, int to,
                bool more, std::vector<LeapPlan>& out);

/// Tries a plan with the character's own motion, in a few ways: with just the speed needed, at full speed,
/// from standing, ducking in the air. The link leads to wherever it came to rest, which need not be the
/// plan's ledge. Nothing where no try leaves the ledge and lands alive.
std::optional<Link> try_leap(const Ground& ground, const motion::World& world, const Character& c,
                             const LeapPlan& plan);

/// How high the feet can rise over the take-off before a body of `height_m` meets what hangs over the
/// straight way to the landing; no more than `most_m`. What is not wholly over the body at both ends is in
/// the way, not over it.
double room_over_way(const motion::World& world, const Character& c, const Vec3& take_off,
                     const Vec3& landing, double height_m, double most_m);

/// Longest run-up (of the middle) to a place along a direction inside the ledge, `most_m` at most.
double run_up_m(const Ground& ground, int fragment, Vec2 take_off, Vec2 direction, double most_m);

} // namespace rubble::check
