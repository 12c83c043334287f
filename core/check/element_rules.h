#pragma once

#include "check/check.h"

namespace rubble::check {

/// What is noticed about elements that act: openers that are missing, foes in the way, crates that stay
/// where they are, keys behind their own doors.
std::vector<Finding> find_in_elements(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
