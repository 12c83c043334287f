#pragma once

#include "check/ground.h"
#include "motion/recording.h"

namespace rubble::check {

// Levels that are walked from cell to cell: their ground is one fragment for each free cell, joined over its
// four sides, and one walks from middle to middle.

/// The ground of a world that is walked by cells: exactly the cells that a flood fill finds.
Ground cell_ground(const motion::World& world);

/// The fragment of the cell that a place lies in; -1 where it is not free.
int fragment_of_cell(const Ground& ground, Vec2 place);

/// Walks from the middle of a cell to that of another, by the fewest cells; false where no way leads there.
bool walk_by_cells(motion::Recorder& recorder, const Ground& ground, int fragment);

} // namespace rubble::check
