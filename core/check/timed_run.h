#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "check/leap.h"
#include "motion/recording.h"

namespace rubble::check {

/// A run that begins and ends at rest, planned in a level in which nothing goes its way by itself.
struct TimedLeg {
    motion::Recording run;
    Vec3 rest{0};                               ///< the feet at its end
    std::shared_ptr<const Link> link = nullptr; ///< null for a walk alone
    int leap_begins = 0;                        ///< the step with which the link begins
};

/// Legs as they are played.
struct TimedRun {
    motion::Recording recording; ///< of all of them, with what was waited
    motion::PlayState end;
    std::vector<int> begins; ///< the step with which each leg begins
};

/// Plays legs one after the other in the level as it is, from a state at rest. Where something that moves is
/// in a leg's way it waits before it, and where that does not help before an earlier one: a search in depth
/// over how long, in steps of a quarter of a second, up to as long as the longest course takes. Nothing
/// where no try of so many leads to the end of every leg.
std::optional<TimedRun> timed_run(const motion::World& world, const Character& character,
                                  const motion::PlayState& begin, const std::vector<TimedLeg>& legs);

/// The longest course of what moves in a world (steps); 0 where nothing does.
int longest_course(const motion::World& world);

} // namespace rubble::check
