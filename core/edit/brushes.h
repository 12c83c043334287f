#pragma once

#include "level/level.h"

namespace rubble::edit {

/// `brush` with one side moved outward by `by_m` (inward when negative), the opposite side staying where it
/// is. Stops where the brush would be thinner than `least_m`.
Brush stretched(const Brush& brush, BoxSide side, double by_m, double least_m);

/// `brush` with its own size along one axis (0 x, 1 y, 2 z) set, its low side staying where it is.
Brush with_size(const Brush& brush, int axis, double size_m);

/// An upright box over the rectangle between two places at one height, as tall as `height_m`; a negative
/// height goes down from there.
Brush box_between(const Vec3& a, const Vec3& b, double height_m);

/// The outward direction of a side of the brush in the level's axes, and the middle of that side.
Vec3 outward(const Brush& brush, BoxSide side);
/// The middle of a side of its own box, in the level.
Vec3 middle_of(const Brush& brush, BoxSide side);

/// `brush` with one side's material set.
Brush with_side_material(const Brush& brush, BoxSide side, const MaterialId& material);

/// The nearest multiple of `step_m`; the value itself for a step of 0.
double snapped(double value, double step_m);
Vec3 snapped(const Vec3& p, double step_m);

} // namespace rubble::edit
