#pragma once

#include "check/check.h"

namespace rubble::check {

/// What the rules of dressing notice: pictures that are not there, of far more or fewer dots to the metre
/// than the project wants, prints that repeat, pictures that jump between faces in one plane, and what is
/// bare in a layer that is dressed otherwise.
std::vector<Finding> find_in_dress(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
