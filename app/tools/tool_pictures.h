#pragma once

#include <QPainter>

#include "edit/openings.h"
#include "level/brush.h"
#include "tools/tile_tool.h"

namespace rubble::app {

// Pictures of tools, 40 × 32, drawn from what they make.

void picture_shape(QPainter& painter, Shape shape);
void picture_cut(QPainter& painter);
void picture_opening(QPainter& painter, edit::OpeningKind kind);
void picture_knife(QPainter& painter);
void picture_element(QPainter& painter, const std::string& kind);
void picture_select(QPainter& painter);
void picture_plane(QPainter& painter);
void picture_hole(QPainter& painter);
void picture_mass(QPainter& painter);
void picture_mirror(QPainter& painter);
void picture_measure(QPainter& painter);
void picture_ask(QPainter& painter);
/// A corner piece on its module.
void picture_piece(QPainter& painter);
void picture_slice(QPainter& painter);
void picture_underlay(QPainter& painter);
void picture_tiles(QPainter& painter, TileStroke stroke);

} // namespace rubble::app
