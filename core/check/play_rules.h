#pragma once

#include "check/check.h"

namespace rubble::check {

/// What is unusual in a level for the kind of play that it says it is about, and what that kind asks for:
/// loops where one finds the way, pick-ups all over where one gathers, foes that are seen before where one
/// slips past.
std::vector<Finding> find_in_kind_of_play(const Project& project, const Level& level,
                                          const CheckResult& result);

} // namespace rubble::check
