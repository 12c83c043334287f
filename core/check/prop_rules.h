#pragma once

#include "check/check.h"

namespace rubble::check {

/// What the rules of props notice: props that float or are sunk, small ornaments that are met, and props
/// that close a way that is claimed, or open one that must not be. Those are found by trying the level
/// without them.
std::vector<Finding> find_in_props(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
