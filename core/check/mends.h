#pragma once

#include "check/check.h"

namespace rubble::check {

/// Up to three changes of the level, each tried: the landing moved nearer or lowered, a step put before it,
/// a ramp made longer, what is in the way moved out of it. Rounded up to the grid. `trials` builds what is
/// tried, each time from the one before.
std::vector<Mend> find_mends(const Project& project, const Level& level, const motion::World& world,
                             build::SolidBuilder& trials, const NearMiss& miss, const Cancel& cancel);

} // namespace rubble::check
