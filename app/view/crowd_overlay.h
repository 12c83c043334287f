#pragma once

#include "study/players.h"
#include "view/overlay.h"

namespace rubble::app {

/// Players at a moment of their runs as dots, and where they fell as spots that are the larger the more did.
void draw_crowd(QPainter& painter, const Camera& camera, const study::Crowd& crowd, double seconds);

} // namespace rubble::app
