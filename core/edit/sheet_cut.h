#pragma once

#include <vector>

#include "level/tiles/tile_sheet.h"

namespace rubble::edit {

/// How a picture is best cut into cells, as seen from the picture itself: lines that are empty at even
/// distances, and edges that repeat at even distances. Each axis is looked at by its profile of edges; a cut
/// scores by how far its borders stand out from all other lines (as by Welch's t), so that neither half nor
/// twice the true cell wins.
SheetCut proposed_cut(const Picture& picture);

/// A sheet's tiles for a cut of its picture: every cell that shows something, numbered row by row.
std::map<int, SheetTile> tiles_of_cut(const Picture& picture, const SheetCut& cut);
/// The cells that show nothing, all transparent or, in a picture without transparency, all of the colour that
/// lies between the tiles; by row · columns + column, ascending.
std::vector<int> empty_cells(const Picture& picture, const SheetCut& cut);

} // namespace rubble::edit
