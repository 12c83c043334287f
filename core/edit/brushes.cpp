#include "edit/brushes.h"

#include <algorithm>
#include <cmath>

#include "level/brush_shape.h"

namespace rubble::edit {

namespace {

int axis_of(BoxSide side) { return int(side) / 2; }
bool is_high(BoxSide side) { return int(side) % 2 == 1; }

/// A brush of points whose extent along the axis of a side grew by a factor, the opposite side staying where
/// it is. `at` stays where it lay among the points.
Brush with_points_stretched(Brush brush, BoxSide side, double factor, double grown_m) {
    const int axis = axis_of(side);
    if (axis == 2 && brush.shape != Shape::body) {
        if (!is_high(side)) brush.place.at += outward(brush, side) * grown_m;
        return brush;
    }
    const Box3 before = own_box(brush);
    if (axis < 2) {
        for (Vec2& p : brush.points) p[axis] *= factor;
        for (auto& hole : brush.holes)
            for (Vec2& p : hole) p[axis] *= factor;
    }
    for (Vec3& p : brush.corners) p[axis] *= factor;
    const Box3 after = own_box(brush);
    Vec3 by(0);
    by[axis] = is_high(side) ? before.low[axis] - after.low[axis] : before.high[axis] - after.high[axis];
    brush.place.at += brush.place.direction(by);
    return measured(brush);
}

} // namespace

Vec3 outward(const Brush& brush, BoxSide side) {
    Vec3 own(0);
    own[axis_of(side)] = is_high(side) ? 1 : -1;
    return brush.place.direction(own);
}

Vec3 middle_of(const Brush& brush, BoxSide side) {
    const Box3 box = own_box(brush);
    Vec3 own = box.middle();
    const int axis = axis_of(side);
    own[axis] = is_high(side) ? box.high[axis] : box.low[axis];
    return brush.place.to_level(own);
}

Brush stretched(const Brush& brush, BoxSide side, double by_m, double least_m) {
    Brush out = brush;
    if (brush.shape == Shape::mass) return out; // it grows by whole cells
    const int axis = axis_of(side);
    const double size = std::max(brush.size[axis] + by_m, std::min(least_m, brush.size[axis]));
    const double grown = size - brush.size[axis];
    out.size[axis] = size;
    if (has_points(brush.shape)) return with_points_stretched(out, side, size / brush.size[axis], grown);
    // `at` is the middle of the base: sideways it follows by half, at the bottom wholly, at the top not.
    const double share = axis == 2 ? (is_high(side) ? 0.0 : 1.0) : 0.5;
    out.place.at += outward(brush, side) * (grown * share);
    return out;
}

Brush with_size(const Brush& brush, int axis, double size_m) {
    const BoxSide high = BoxSide(axis * 2 + 1);
    return stretched(brush, high, size_m - brush.size[axis], size_m);
}

Brush box_between(const Vec3& a, const Vec3& b, double height_m) {
    Brush brush;
    brush.place.at = {(a.x + b.x) / 2, (a.y + b.y) / 2, std::min(a.z, a.z + height_m)};
    brush.size = {std::abs(a.x - b.x), std::abs(a.y - b.y), std::abs(height_m)};
    return brush;
}

Brush with_side_material(const Brush& brush, BoxSide side, const MaterialId& material) {
    Brush out = brush;
    for (const FaceName& face : faces_towards(brush, side)) {
        if (material == brush.material)
            out.looks.erase(face);
        else
            out.looks[face] = {material, {}};
    }
    return out;
}

double snapped(double value, double step_m) {
    return step_m > 0 ? std::round(value / step_m) * step_m : value;
}

Vec3 snapped(const Vec3& p, double step_m) {
    return {snapped(p.x, step_m), snapped(p.y, step_m), snapped(p.z, step_m)};
}

} // namespace rubble::edit
