#include "edit/brushes.h"

#include <algorithm>
#include <cmath>

namespace rubble::edit {

namespace {

int axis_of(BoxSide side) { return int(side) / 2; }
bool is_high(BoxSide side) { return int(side) % 2 == 1; }

} // namespace

Vec3 outward(const Brush& brush, BoxSide side) {
    Vec3 own(0);
    own[axis_of(side)] = is_high(side) ? 1 : -1;
    return brush.place.direction(own);
}

Vec3 middle_of(const Brush& brush, BoxSide side) {
    Vec3 own(0, 0, brush.size.z / 2);
    const int axis = axis_of(side);
    own[axis] =
        axis == 2 ? (is_high(side) ? brush.size.z : 0) : (is_high(side) ? 1 : -1) * brush.size[axis] / 2;
    return brush.place.to_level(own);
}

Brush stretched(const Brush& brush, BoxSide side, double by_m, double least_m) {
    Brush out = brush;
    const int axis = axis_of(side);
    const double size = std::max(brush.size[axis] + by_m, std::min(least_m, brush.size[axis]));
    const double grown = size - brush.size[axis];
    out.size[axis] = size;
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
    if (material == brush.material)
        out.side_materials.erase(side);
    else
        out.side_materials[side] = material;
    return out;
}

double snapped(double value, double step_m) {
    return step_m > 0 ? std::round(value / step_m) * step_m : value;
}

Vec3 snapped(const Vec3& p, double step_m) {
    return {snapped(p.x, step_m), snapped(p.y, step_m), snapped(p.z, step_m)};
}

} // namespace rubble::edit
