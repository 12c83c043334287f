#pragma once

#include "check/other_metrics.h"

namespace rubble::check {

/// What is missing to reach the thing at `to` from a search that does not reach it: first the shortest
/// flight that the character lacks, then, where flight is not what is missing, the one metric of the
/// character that would have to be smaller (width, height) or larger (slope, step).
std::optional<NearMiss> near_miss(OtherMetrics& others, const motion::World& world, const Ground& ground,
                                  const Reach& reach, const Character& character, const Vec3& from,
                                  const Vec3& to, const Cancel& cancel);

} // namespace rubble::check
