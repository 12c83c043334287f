#pragma once

#include "motion/cells/letter.h"

namespace rubble::motion::cells {

// How the kinds of elements act by cells. Each is in a file of its own; a letter calls them one after the
// other.

/// Whether the figure survives in a cell.
bool survives(const CellPuzzle& puzzle, const CellState& state, int cell);
/// Whether the figure could go into a cell in a direction, as far as walls, barriers and doors say; with
/// `opens` a closed door for which it has the key counts as open.
bool lets_in(const CellPuzzle& puzzle, const CellState& state, int cell, int direction, bool opens);
/// The figure comes into a cell that lets it in: takes and presses what is there.
void enter(const CellPuzzle& puzzle, CellState& state, int cell);
/// The figure goes out of a cell: what crumbles is gone.
void leave(const CellPuzzle& puzzle, CellState& state, int cell);

/// Opens a closed door with a key, which may be spent.
void open_with_key(const CellPuzzle& puzzle, CellState& state, int door);
/// Whether there is a key for a door that is not open.
bool has_key_for(const CellPuzzle& puzzle, const CellState& state, int door);

/// Somebody comes onto the switch of a cell.
void press(const CellPuzzle& puzzle, CellState& state, int cell, bool by_crate);

/// The figure uses the switch that it stands on; false where none is that is used.
bool use(const CellPuzzle& puzzle, CellState& state, int cell);
/// Dispensers that were called since a state, or that nobody has to call, give a crate where there is room.
void dispense(const CellPuzzle& puzzle, const CellState& before, CellState& state);

/// Pushes what stands in a cell; the first crate that moved, or -1 where it stays.
int push(const CellPuzzle& puzzle, CellState& state, int cell, int direction);
/// Whether a crate could go one cell in a direction.
bool crate_could_go(const CellPuzzle& puzzle, const CellState& state, int crate, int direction);
/// Moves a crate by a cell: it presses switches and fills what it falls into.
void move_crate(const CellPuzzle& puzzle, CellState& state, int crate, int direction);

/// The figure goes on over slippery floor in a direction until something stops it; false where it dies.
bool slide(const CellPuzzle& puzzle, CellState& state, int direction);
/// All belts carry what is on them by a cell; false where the figure dies.
bool carry(const CellPuzzle& puzzle, CellState& state);

/// All foes go on by a cell; false where one touches the figure, which was in `from` before.
bool foes_go(const CellPuzzle& puzzle, CellState& state, int from);
/// Whether a foe is in a cell.
bool foe_in(const CellPuzzle& puzzle, const CellState& state, int cell);

} // namespace rubble::motion::cells
