#pragma once

#include "check/maze.h"
#include "check/reach.h"

namespace rubble::check {

/// For each dead end of a maze the thinnest wall at its end behind which ground lies that one gets to and
/// that is not the dead end itself: with an opening there nothing of it is walked twice.
std::vector<Maze::Opening> openings_of(const Maze& maze, const motion::World& world, const Ground& ground,
                                       const Reach& reach, const Character& character);

} // namespace rubble::check
