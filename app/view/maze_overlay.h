#pragma once

#include "check/maze.h"
#include "view/overlay.h"

namespace rubble::app {

/// What a maze is, over the level: dead ends, shortcuts with what they save, the narrowest place, and the
/// longest way.
void draw_maze(QPainter& painter, Labels& labels, const Camera& camera, const check::Maze& maze);

} // namespace rubble::app
