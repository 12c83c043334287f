#pragma once

#include "motion/cells/puzzle.h"
#include "motion/play_state.h"

namespace rubble::motion {

/// Play begins with the figure in the cell that a body is in.
CellState begun_in_cell(const CellPuzzle& puzzle, const build::WalkedCells& cells, const State& body);

/// The next state of play from cell to cell: from the middle of a cell the stick plays a letter, and the
/// figure goes to the cell where that brings it, at run speed. Where time counts, standing still for as long
/// as a step takes is a letter too.
PlayState cell_play(const World& world, const Character& character, PlayState state, const Input& input);

/// How long a letter takes that goes to the next cell (seconds).
double letter_s(const build::WalkedCells& cells, const Character& character);

} // namespace rubble::motion
