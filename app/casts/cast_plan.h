#pragma once

#include <QImage>

#include "cast/cast.h"

namespace rubble::app {

/// A plan of a cast: cells with passages between them, upper storeys over lower ones, and the run from start
/// to goal. `size` in pixels.
QImage plan_of(const cast::Parts& parts, const cast::Cast& cast, QSize size);

} // namespace rubble::app
