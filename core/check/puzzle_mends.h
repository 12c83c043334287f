#pragma once

#include <vector>

#include "level/level.h"
#include "solve/solve.h"

namespace rubble::check {

/// Something put into a cell so that a ruin can no more happen, or only when it is harmless. It was tried:
/// the level can still be solved.
struct PuzzleMend {
    Item item;
    solve::Ruin of;
    int fewer_ruins = 0, steps = 0; ///< of the level with it
};

/// Mends of the ruins that are noticed late, the one that leaves the fewest ruins first: a barrier to crates
/// in the cell that is pushed into, or a pick-up there, over which nothing is pushed until it is taken.
std::vector<PuzzleMend> puzzle_mends(const Level& level, const solve::Answer& answer, const Cancel& cancel);

/// Elements without which the shortest solution is just as long and has as many pushes: decoration.
std::vector<ItemId> decoration_of(const Level& level, const solve::Answer& answer, const Cancel& cancel);

} // namespace rubble::check
