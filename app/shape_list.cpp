#include "shape_list.h"

#include "text.h"

namespace rubble::app {

QString shape_name(Shape shape) {
    switch (shape) {
    case Shape::box:
        return tr("Box");
    case Shape::ramp:
        return tr("Ramp");
    case Shape::stairs:
        return tr("Stairs");
    case Shape::curved_stairs:
        return tr("Curved stairs");
    case Shape::cylinder:
        return tr("Cylinder");
    case Shape::cone:
        return tr("Cone");
    case Shape::ball:
        return tr("Ball");
    case Shape::arch:
        return tr("Arch");
    case Shape::outline:
        return tr("Outline");
    case Shape::wall_run:
        return tr("Wall run");
    case Shape::body:
        return tr("Body");
    case Shape::pipe:
        return tr("Pipe bend");
    case Shape::mass:
        return tr("Mass");
    }
    return {};
}

ShapeNumberText shape_number_text(Shape shape, const ShapeNumber& number) {
    if (number.count == &Brush::sides) return {tr("Sides"), {}, 1, 1};
    if (number.count == &Brush::steps)
        return {shape == Shape::pipe ? tr("Straight pieces") : tr("Steps"), {}, 1, 1};
    if (number.measure == &Brush::angle_deg)
        return {shape == Shape::pipe ? tr("Bend through") : tr("Turn through"), QStringLiteral("°"), 15, 1};
    if (number.measure == &Brush::inner_part) return {tr("Free middle"), QStringLiteral("%"), 5, 100};
    const QString thickness = shape == Shape::pipe       ? tr("Wall (0: solid)")
                              : shape == Shape::arch     ? tr("Thickness of frame")
                              : shape == Shape::wall_run ? tr("Thickness of walls")
                                                         : tr("Thickness of treads");
    return {thickness, tr("m"), 0.05, 1};
}

QString draw_text(Shape shape) { return tr("Draw: %1").arg(shape_name(shape).toLower()); }

} // namespace rubble::app
