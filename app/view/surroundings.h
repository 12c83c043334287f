#pragma once

#include "level/document.h"

namespace rubble::app {

/// The edges of what stands around the place of an assembly or a piece, as pairs of places in the axes of
/// what is placed there, so that it can be worked on in its surroundings. The nearest first, so many of them.
std::vector<Vec3> lines_around(const Level& level, const ItemId& place);

} // namespace rubble::app
