#pragma once

#include "session/studies.h"
#include "view/overlay.h"

namespace rubble::app {

/// An earlier version of the level as a ghost: what is gone, added, and moved with how far, and the ground
/// that was won and lost.
void draw_version(QPainter& painter, Labels& labels, const Camera& camera, const Level& level,
                  const Beside& beside);

} // namespace rubble::app
