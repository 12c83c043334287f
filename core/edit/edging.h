#pragma once

#include <span>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// All cases that are told apart: 47, or the 16 of sides alone, in the order in which they are offered.
std::vector<GroundAround> edging_cases(bool corners);
/// The cases that a set has no tile for. A set that has none for cases of corners knows sides alone.
std::vector<GroundAround> missing_cases(const Edging& edging);
/// The tile for a case, or for the case most like it: sides count more than corners. -1 of an empty set.
int tile_for(const Edging& edging, GroundAround around);

/// What lies around a cell that is of the same ground.
GroundAround around_cell(const TileGrid& grid, const Edging& edging, CellAt cell);

/// The grid with some cells of a ground, or none of it, and the tiles there and beside them as the ground
/// wants them. Tiles placed by hand stay.
TileGrid with_ground(const TileGrid& grid, const Edging& edging, std::span<const CellAt> cells, bool ground);
/// The grid with all tiles of the ground as it wants them, as after painting over them by hand; those placed
/// by hand too where `released`.
TileGrid edged_anew(const TileGrid& grid, const Edging& edging, bool released);

/// A layer of art over the solid cells of another, drawn by a ground's tiles: cells of any size of their own.
/// A cell that is solid in part gets the tile of the art's sheet that collides alike (slopes, decks, what is
/// deadly), as it is or mirrored; without one, the ground's where most of the cell is solid. What lies in the
/// layer already and was not laid by clothing stays.
TileLayer clothed(const TileLayer& art, const TileLayer& solid, Frame frame, const Edging& edging);

} // namespace rubble::edit
