#pragma once

#include <optional>

#include "check/leap.h"
#include "motion/recording.h"

namespace rubble::check {

/// How a hand is off while it makes a leap.
struct Hand {
    int later_steps = 0; ///< by which the jump is pressed later, negative: earlier
    double turn_deg = 0; ///< by which the direction is off, to the left
    double stick = 1;    ///< how far the stick is pushed, as a part of what was meant
    /// So long after the take-off it steers at the landing; before that, and where it never does, it keeps
    /// the direction in which it ran (steps).
    int reaction_steps = 1 << 20;
};

/// A leap as somebody makes it who knows it: at full speed, pressing where most room is left to be off, and
/// in the air as fast as lets it come down on the aim. Where that does not lead there, as the link's own
/// recording makes it.
struct Approach {
    Vec3 begin{0};                ///< at rest, before the run-up
    Vec2 direction{1, 0};         ///< of the run-up
    Vec3 aim{0};                  ///< where it wants to come down
    int press = -1;               ///< the step with which jump is pressed; -1: it walks off
    int earliest = 0, latest = 0; ///< by which the press may be off to both sides and still get there (steps)
    bool recorded = false;        ///< by the recording
    double seconds = 0;           ///< until it rests again
};

/// How a link is best leapt; nothing where not even its own recording leads there from rest.
std::optional<Approach> approach_of(const Ground& ground, const motion::World& world,
                                    const Character& character, const Link& link);

/// A link as its own recording makes it, untried.
Approach as_recorded(const Link& link);

/// Makes a leap from its beginning, until the figure rests, or is dead, or nothing comes of it.
void leap(motion::Recorder& recorder, const Character& character, const Link& link, const Approach& approach,
          const Hand& hand);

/// How far the direction may be off in all, to the left and to the right, with the press at its best and
/// nothing corrected in the air (degrees); no more than 90.
double forgiven_turn_deg(const Ground& ground, const motion::World& world, const Character& character,
                         const Link& link, const Approach& approach);

} // namespace rubble::check
