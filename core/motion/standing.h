#pragma once

#include <optional>

#include "motion/step.h"

namespace rubble::motion {

/// The nearest place to `near` where the character can stand upright, within `within_m` in plan and in
/// height; nothing where there is none.
std::optional<Vec3> standing_place_near(const World& world, const Character& character, const Vec3& near,
                                        double within_m = 4);

} // namespace rubble::motion
