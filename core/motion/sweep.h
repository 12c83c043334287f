#pragma once

#include <optional>

#include "motion/world.h"

namespace rubble::motion {

/// What a moving body meets first.
struct Contact {
    enum class Kind { top, bottom, wall };
    double part = 1; ///< of the way, 0 to 1
    Kind kind = Kind::wall;
    Vec3 normal{0, 0, 1}; ///< outward, of unit length
    double height = 0;    ///< of the feet at the contact with a top
    int column = -1;
};

/// The first contact of a body that moves straight by `way`; nothing when the way is free. Columns that it
/// is already in by more than rounding do not count, so that a body that began inside matter can leave.
/// Exact for level columns; by bisection along the way for sloping ones, over which the body's distance
/// from the matter is a convex function of the way.
std::optional<Contact> first_contact(const World& world, const Body& body, const Vec3& way);

} // namespace rubble::motion
