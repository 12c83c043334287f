#pragma once

#include "motion/step.h"

namespace rubble::motion {

/// The next state of a figure that goes from cell to cell: from the middle of one it goes to the middle of
/// the one that the stick points at, along the nearer axis, at run speed, and arrives there whatever the
/// stick does meanwhile. Walls and the layer's end keep it where it is; a deadly cell kills when its middle
/// is reached.
State cell_step(const build::WalkedCells& cells, const Character& character, State state, const Input& input);

/// The figure in the middle of the cell that a place lies in; it stands where the cell is free.
State state_on_cell(const build::WalkedCells& cells, const Vec3& at);

} // namespace rubble::motion
