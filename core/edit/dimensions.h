#pragma once

#include "level/level.h"

namespace rubble::edit {

/// A kept distance more.
Level with_dimension(const Level& level, const DimensionEnd& from, const DimensionEnd& to);
/// The level with a kept distance less.
Level without_dimension(const Level& level, const DimensionId& id);

} // namespace rubble::edit
