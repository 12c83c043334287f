#pragma once

#include "check/check.h"

namespace rubble::check {

/// The excuse of a level for a finding: of its rule, for its items, no more than a metre from it. Nothing
/// where there is none.
const Excuse* excuse_for(const Level& level, const Finding& finding);

/// What would excuse a finding.
Excuse excuse_of(const Finding& finding, const std::string& reason);

/// Takes findings of rules that the project has switched off away, and puts those that the level excuses
/// aside.
void set_excused_apart(const Project& project, const Level& level, CheckResult& result);

} // namespace rubble::check
