#pragma once

#include "session/puzzle_answer.h"
#include "view/overlay.h"

namespace rubble::app {

/// Ruins as arrows in the cells where they begin: those that are seen at once, and those that are noticed
/// only later, with the number of steps where `words` are wanted.
void draw_ruins(QPainter& painter, Labels& labels, const Camera& camera, const PuzzleAnswer& puzzle,
                bool words);

} // namespace rubble::app
