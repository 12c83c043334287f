#pragma once

#include "check/reach_queries.h"

namespace rubble::check {

/// What the rules notice in a checked level: start and goal, elements that are not reached, and fits that
/// fail by little (lips, slopes, passages).
std::vector<Finding> find_findings(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
