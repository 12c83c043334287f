#pragma once

#include "check/asking.h"

namespace rubble::check {

/// What is missing to reach the thing at `to` from a search that does not reach it: first the shortest
/// flight that the character lacks, then, where flight is not what is missing, the one metric of the
/// character that would have to be smaller (width, height) or larger (slope, step).
std::optional<NearMiss> near_miss(const motion::World& world, const Ground& ground, const Reach& reach,
                                  const Character& character, const Vec3& from, const Vec3& to,
                                  const Cancel& cancel);

/// Up to three changes of the level, each tried: the landing moved nearer or lowered, a step put before it,
/// a ramp made longer, what is in the way moved out of it. Rounded up to the grid.
std::vector<Mend> find_mends(const Project& project, const Level& level, const build::Solid& solid,
                             const motion::World& world, const NearMiss& miss, const Cancel& cancel);

} // namespace rubble::check
