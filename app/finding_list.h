#pragma once

#include <vector>

#include "check/check.h"

namespace rubble::app {

/// What a check found, in the order in which one walks through it: the gravest first, of a rule one after the
/// other.
std::vector<check::Finding> in_walking_order(const check::CheckResult& result);

} // namespace rubble::app
