#pragma once

#include "check/check.h"

namespace rubble::check {

/// For each foe of a checked level that goes a way: from where on the run to a goal its way is seen the best,
/// before the run first comes near it. Eyes and what is seen are at eye height. Empty where no goal is
/// reached.
std::vector<FoeWatch> watch_foes(const Level& level, const CheckResult& result);

} // namespace rubble::check
