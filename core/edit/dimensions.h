#pragma once

#include "level/level.h"

namespace rubble::edit {

Level with_dimension(const Level& level, const DimensionEnd& from, const DimensionEnd& to);
Level without_dimension(const Level& level, const DimensionId& id);

} // namespace rubble::edit
