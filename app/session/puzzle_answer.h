#pragma once

#include <memory>

#include "build/tile_matter.h"
#include "check/puzzle_mends.h"
#include "solve/solve.h"

namespace rubble::app {

/// What is known of the shown level as a puzzle, where it is walked by cells and something in it acts.
struct PuzzleAnswer {
    std::shared_ptr<const motion::CellPuzzle> puzzle; ///< null: it is none
    std::shared_ptr<const build::WalkedCells> cells;
    solve::Answer answer;
    std::vector<check::PuzzleMend> mends; ///< of its ruins, once they were tried
    std::vector<ItemId> decoration;       ///< what can be left out without changing the shortest solution
    bool newest = false;                  ///< of the level as it is now
};

} // namespace rubble::app
