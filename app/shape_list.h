#pragma once

#include <QString>

#include "level/brush.h"

namespace rubble::app {

/// A shape as it is called on the screen.
QString shape_name(Shape shape);
/// The same within a sentence: "Draw a box".
QString draw_text(Shape shape);

} // namespace rubble::app
