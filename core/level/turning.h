#pragma once

#include "level/placement.h"

namespace rubble {

/// The turn of a placement, also where it stands upright.
Rotation rotation_of(const Placement& place);

/// Turns put one after the other: `first`, then `then`.
Rotation turned_by(const Rotation& then, const Rotation& first);

/// A placement turned about an axis of unit length through a place, counter-clockwise seen against the axis.
/// What stands upright and is turned about an upright axis stays so; quarter turns are exact.
Placement turned_about(const Placement& place, const Vec3& about, const Vec3& axis, double deg);

} // namespace rubble
