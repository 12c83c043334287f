#pragma once

#include <QImage>
#include <QPainter>

#include "level/level.h"

namespace rubble::app {

/// The picture of a sheet as one that can be painted; kept as long as the sheet's is. Null where it has none.
QImage image_of(const TileSheet& sheet);

/// Draws a tile into a box of the screen, mirrored and turned as it lies; a plain cell where the sheet has no
/// picture of it. Nothing for empty cells.
void draw_tile(QPainter& painter, const QRectF& box, const TileSheet* sheet, Tile tile);

/// The size of a cell of a sheet in the level, by the project's pixels per metre; the grid step where no
/// sheet is named.
double cell_for(const Project& project, const std::string& sheet_file);

/// A layer of tiles to begin with, drawn from a sheet (none: plain cells). The first one of a level is solid.
Layer new_tile_layer(const Level& level, const Project& project, const std::string& sheet_file);

} // namespace rubble::app
