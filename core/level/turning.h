#pragma once

#include "level/frame.h"
#include "level/placement.h"

namespace rubble {

/// The turn of a placement, also where it stands upright.
Rotation rotation_of(const Placement& place);

/// Turns put one after the other: `first`, then `then`.
Rotation turned_by(const Rotation& then, const Rotation& first);

/// A placement turned about an axis of unit length through a place, counter-clockwise seen against the axis.
/// What stands upright and is turned about an upright axis stays so; quarter turns are exact.
Placement turned_about(const Placement& place, const Vec3& about, const Vec3& axis, double deg);

/// How far a placement is turned as the main view of a frame shows it, counter-clockwise: from the side about
/// y; nothing where it is tipped out of that plane.
std::optional<double> shown_turn_deg(const Placement& place, Frame frame);
/// Turned so far as the main view shows it, and not tipped.
Placement with_shown_turn(Placement place, Frame frame, double deg);

} // namespace rubble
