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

QString draw_text(Shape shape) { return tr("Draw: %1").arg(shape_name(shape).toLower()); }

} // namespace rubble::app
