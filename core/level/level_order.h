#pragma once

#include <vector>

#include "level/level.h"

namespace rubble {

/// The levels of a project, as places in the list, in the order in which they are walked: each before those
/// that its goals lead on to; those that no goal leads to in the order of their names. What leads in a ring
/// begins with the first by name.
std::vector<size_t> in_walking_order(const std::vector<const Level*>& levels);

} // namespace rubble
