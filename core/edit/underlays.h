#pragma once

#include "level/level.h"

namespace rubble::edit {

/// An underlay added under a free id, or the one of its id changed.
Level with_underlay(const Level& level, Underlay underlay);
/// A picture gone.
Level without_underlay(const Level& level, const UnderlayId& id);

/// Scaled about `a` so that the picture's places that lie at `a` and `b` now come to be so far apart; as it
/// is where they are one place or the distance is none.
Underlay scaled_between(const Underlay& underlay, const Vec3& a, const Vec3& b, double distance_m);

} // namespace rubble::edit
