#pragma once

#include "level/level.h"

namespace rubble::edit {

Level with_dimension(const Level& level, const DimensionEnd& from, const DimensionEnd& to);
Level without_dimension(const Level& level, const std::string& id);

} // namespace rubble::edit
