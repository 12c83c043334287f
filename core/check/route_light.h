#pragma once

#include "level/dressing/light.h"
#include "motion/world.h"

namespace rubble::check {

/// Below this nobody sees where to go, unless the project says otherwise (lux; what emergency lighting of a
/// way out gives on its middle line: EN 1838).
inline constexpr double dark_lux = 1;

/// How much light comes to an eye at a place: from every lamp and sun that it sees, as far as each gets, and
/// from the sky, as much of it as it sees (lux, square on to each light).
double lux_at_eye(const motion::World& world, const std::vector<Light>& lights, const Vec3& eye);

} // namespace rubble::check
