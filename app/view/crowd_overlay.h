#pragma once

#include "session/studies.h"
#include "view/overlay.h"

namespace rubble::app {

/// Players at a moment of their runs as dots, and spots that are the larger the more fell there, lost time or
/// were there; of those who explore also the ground that nobody finds.
void draw_crowd(QPainter& painter, const Camera& camera, const Studies& studies);

} // namespace rubble::app
