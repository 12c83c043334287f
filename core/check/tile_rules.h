#pragma once

#include "check/reach_queries.h"

namespace rubble::check {

/// What the rules of tiles notice in a checked level: tiles that look otherwise than they collide, outlines
/// that do not meet, layers that hide the character, sheets that are gone.
std::vector<Finding> find_in_tiles(const Project& project, const Level& level, const CheckResult& result);

/// A layer that is not solid and has a tile somewhere under a place; null where none has.
const Layer* drawn_below(const Level& level, const Vec3& at);

} // namespace rubble::check
