#include "level/brush_shape.h"

#include <array>
#include <cmath>

#include "level/shapes/hollow.h"
#include "level/shapes/kinds.h"

namespace rubble {

namespace {

using geometry::TickPoint;

bool is_within(const Vec3& v, double limit) {
    return std::abs(v.x) <= limit && std::abs(v.y) <= limit && std::abs(v.z) <= limit;
}

/// What is wrong with the values that a shape has besides its size.
std::string problem_of_values(const Brush& brush) {
    const ShapeKind& kind = kind_of(brush.shape);
    for (const ShapeNumber& number : kind.numbers)
        if (number.count && (!number.used || number.used(brush)) &&
            (brush.*number.count < number.least || brush.*number.count > number.most))
            return number.key;
    return kind.problem ? kind.problem(brush) : std::string();
}

} // namespace

BrushBody body_of(const Brush& brush) {
    return brush.shell_m > 0 ? shapes::shell(brush) : kind_of(brush.shape).body(brush);
}

Box3 own_box(const Brush& brush) {
    if (const auto own = kind_of(brush.shape).own_box) return own(brush);
    return {{-brush.size.x / 2, -brush.size.y / 2, 0}, {brush.size.x / 2, brush.size.y / 2, brush.size.z}};
}

Brush measured(Brush brush) {
    if (!has_points(brush.shape)) return brush;
    const Box3 box = own_box(brush);
    brush.size = box.high - box.low;
    return brush;
}

bool has_points(Shape shape) { return kind_of(shape).data != ShapeData::size; }
bool has_angle(Shape shape) {
    for (const ShapeNumber& number : kind_of(shape).numbers)
        if (number.measure == &Brush::angle_deg) return true;
    return false;
}

std::vector<Vec3> corners_of(const Brush& brush) {
    std::vector<Vec3> out;
    if (brush.shape == Shape::mass) { // those of its box: it may have very many
        const Box3 box = own_box(brush);
        for (int i = 0; i < 8; ++i)
            out.push_back(
                brush.place.to_level({(i & 1 ? box.high : box.low).x, (i & 2 ? box.high : box.low).y,
                                      (i & 4 ? box.high : box.low).z}));
        return out;
    }
    for (const TickPoint& p : body_of(brush).points) out.push_back(geometry::to_metres(p));
    return out;
}

FaceName body_face_name(const Brush& brush, int face) {
    return {FacePart::face, brush.face_numbers.empty() ? face : brush.face_numbers[size_t(face)]};
}

std::string problem_of(const Brush& brush) {
    if (const std::string problem = problem_of_values(brush); !problem.empty()) return problem;
    if (!is_within(brush.place.at, geometry::farthest_m)) return "at";
    const Vec3 size = measured(brush).size;
    for (int axis = 0; axis < 3; ++axis)
        if (!(brush.size[axis] > 0) || // of one made of points too: what is typed is refused, not passed over
            !(size[axis] >= shapes::k_thinnest_m && size[axis] <= geometry::longest_edge_m))
            return "size";
    if (!(brush.shell_m >= 0) ||
        (brush.shell_m > 0 && (brush.shape == Shape::mass || !shapes::shell_mesh(brush))))
        return "shell_m";
    if (!std::isfinite(brush.place.turn_deg)) return "turn_deg";
    if (brush.place.rotation) {
        double square = 0;
        for (double v : *brush.place.rotation) square += v * v;
        if (!(std::abs(square - 1) < 1e-3)) return "rotation";
    }
    return {};
}

} // namespace rubble
