#pragma once

#include <vector>

#include "check/ground.h"
#include "motion/play_state.h"

namespace rubble::check {

/// In which order a level opens up: what one gets to at once, what only when all that was to be had there is
/// taken, pressed and opened, and so on. By cells: in how many things that have to be taken, pressed or
/// opened first, the fewest.
struct Bands {
    std::vector<int> of_ledge;              ///< -1: one does not get there
    motion::PuzzleState last;               ///< freely: all that is to be had is taken and opened
    std::vector<std::vector<ItemId>> after; ///< by bands, freely: what opened it; empty for the first one
    int count() const { return int(after.size()); }
};

class ReachQueries;

/// The bands of a level in which elements act, of the ledges of the ground as it was built.
Bands bands_of(ReachQueries& queries, const std::vector<Vec3>& starts);

} // namespace rubble::check
