#pragma once

#include <span>

#include "build/solid.h"
#include "check/check.h"
#include "view/overlay.h"

namespace rubble::app {

/// Where pieces are met otherwise than they are seen: lines of what is met, broken lines of what is seen and
/// not met, and a word at openings that nobody gets through.
void draw_met(QPainter& painter, Labels& labels, const Camera& camera, const build::Solid& solid,
              std::span<const check::Finding> findings);

} // namespace rubble::app
