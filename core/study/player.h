#pragma once

#include "study/players.h"
#include "study/route.h"

namespace rubble::study {

/// One run of somebody with a skill over a route. Misses name links of the route.
PlayerRun player_run(const Route& route, const Skill& skill, uint64_t seed, bool with_track,
                     const Cancel& cancel);

} // namespace rubble::study
