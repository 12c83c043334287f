#pragma once

#include "check/asking.h"

namespace rubble::check {

/// What the rules notice in a checked level: start and goal, elements that are not reached, and fits that
/// fail by little (lips, slopes, passages).
std::vector<Finding> find_findings(const Project& project, const Level& level, const CheckResult& result);

/// A metre value as it stands in sentences.
std::string metres(double value);

} // namespace rubble::check
