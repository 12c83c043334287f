#pragma once

#include "build/tile_matter.h"

namespace rubble::build {

/// Closed lines around prisms of one kind, outer ones counter-clockwise and those of holes clockwise, in the
/// picture plane: what touches along a side is within one line, and no corner lies on a straight stretch.
std::vector<std::vector<Vec2>> outlines_of(const std::vector<TilePrism>& prisms);

} // namespace rubble::build
