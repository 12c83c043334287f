#pragma once

#include "level/tiles/tile_sheet.h"

namespace rubble::edit {

/// A sheet of grey tiles to begin with, its picture drawn for a cell of some pixels: whole and half cells,
/// slopes 1:1 and 1:2 both ways, steps, a thin deck, corners, a wall, spikes, a blank block, and rows left
/// free for what comes later. What is drawn collides as it is drawn.
TileSheet grey_sheet(int cell_px);

/// The sheet with a grey piece more, drawn and colliding in its first free cell: its outline in cells from
/// the lower left. Itself where no cell is free.
TileSheet with_grey_piece(const TileSheet& sheet, const std::vector<Vec2>& outline, const std::string& name,
                          TileCollision collision = TileCollision::outline);

} // namespace rubble::edit
