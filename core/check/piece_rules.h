#pragma once

#include "check/reach_queries.h"

namespace rubble::check {

/// What the rules of kits notice in a checked level: pieces that cannot be read, stand off their module or in
/// one place; joints that stay open, do not fit, or leave a gap or a step; openings that are closed by what a
/// piece is met as.
std::vector<Finding> find_in_pieces(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
