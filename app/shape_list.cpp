#include "shape_list.h"

#include "text.h"

#include <algorithm>
#include <array>

namespace rubble::app {

namespace {

constexpr std::array k_shapes{ShapeEntry{Shape::box, "box", Qt::Key_B},
                              ShapeEntry{Shape::ramp, "ramp", Qt::Key_T},
                              ShapeEntry{Shape::stairs, "stairs", Qt::Key_I},
                              ShapeEntry{Shape::curved_stairs, "curved_stairs", Qt::SHIFT | Qt::Key_I},
                              ShapeEntry{Shape::cylinder, "cylinder", Qt::Key_O},
                              ShapeEntry{Shape::cone, "cone", Qt::Key_K},
                              ShapeEntry{Shape::ball, "ball", Qt::SHIFT | Qt::Key_O},
                              ShapeEntry{Shape::arch, "arch", Qt::Key_H},
                              ShapeEntry{Shape::pipe, "pipe", Qt::SHIFT | Qt::Key_K},
                              ShapeEntry{Shape::outline, "outline", Qt::Key_L},
                              ShapeEntry{Shape::wall_run, "wall_run", Qt::SHIFT | Qt::Key_L}};

} // namespace

std::span<const ShapeEntry> all_shapes() { return k_shapes; }

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

const ShapeEntry* shape_of_tool(const QString& tool) {
    const auto found = std::find_if(k_shapes.begin(), k_shapes.end(), [&](const ShapeEntry& entry) {
        return tool == QLatin1String(entry.tool);
    });
    return found == k_shapes.end() ? nullptr : &*found;
}

} // namespace rubble::app
