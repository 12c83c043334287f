#pragma once

#include "level/shapes/shape_kind.h"

namespace rubble::shapes {

/// The row of a shape, from the file of its name. @{
ShapeKind box();
ShapeKind ramp();
ShapeKind stairs();
ShapeKind curved_stairs();
ShapeKind cylinder();
ShapeKind cone();
ShapeKind ball();
ShapeKind arch();
ShapeKind pipe();
ShapeKind outline();
ShapeKind wall_run();
ShapeKind body();
ShapeKind mass();
/// @}

// Numbers and limits that several have.
inline const ShapeNumber k_sides{"sides", &Brush::sides, nullptr, least_sides, most_sides};
inline const ShapeNumber k_steps{"steps", &Brush::steps, nullptr, 1, most_steps};
inline const ShapeNumber k_angle{"angle_deg", nullptr, &Brush::angle_deg};
inline const ShapeNumber k_thickness{"thickness_m", nullptr, &Brush::thickness_m};

inline constexpr double k_thinnest_m = 1e-5;
/// Thinner ones would have sides whose corners fall onto one line when they are rounded to ticks.
inline constexpr double k_thinnest_round_m = 0.01;

} // namespace rubble::shapes
