#pragma once

#include <cstdint>
#include <vector>

#include "motion/cells/puzzle.h"

namespace rubble::motion {

/// The ways of foes that go by a rule, worked out in the level as it is built: what changes in play keeps a
/// foe waiting where it is, but leads it nowhere else. A way that is empty has nowhere to begin. They go
/// where neither walls nor deadly ground are.

/// Ahead until something stops it, back past where it began until the other, and so on.
CellPuzzle::Foe turning_way(const CellPuzzle& puzzle, int from, int direction);
/// With the wall on its left or right: to that side where that is free, else ahead, else to the other, else
/// back; before it has met a wall, ahead or on that side, it goes ahead.
CellPuzzle::Foe following_way(const CellPuzzle& puzzle, int from, int direction, bool left);
/// Here and there by chance, a number of cells far, and back the same way. The same for the same seed.
CellPuzzle::Foe wandering_way(const CellPuzzle& puzzle, int from, uint64_t seed);
/// One that stays where it is until it sees the figure.
CellPuzzle::Foe nearing_way(const CellPuzzle& puzzle, int from, int sight_cells);

} // namespace rubble::motion
