#pragma once

#include <QString>

#include "level/shapes/shape_kind.h"

namespace rubble::app {

/// A shape as it is called on the screen.
QString shape_name(Shape shape);
/// The same within a sentence: "Draw a box".
QString draw_text(Shape shape);

/// A number of a shape as it is called on the screen, with how it is shown.
struct ShapeNumberText {
    QString name, unit;
    double step = 1;
    double scale = 1; ///< of what is shown to what is kept
};
ShapeNumberText shape_number_text(Shape shape, const ShapeNumber& number);

} // namespace rubble::app
