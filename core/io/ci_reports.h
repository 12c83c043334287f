#pragma once

#include <string>

#include "check/check.h"
#include "io/json_text.h"

namespace rubble::io {

/// What a check found in the forms that build servers read. `file` is the level's path as it was given.

/// Claims that do not hold and all findings, as SARIF 2.1.0 (OASIS, "Static Analysis Results Interchange
/// Format", 2020); the place and the items of each stand in its properties.
Json sarif_report(const Level& level, const check::CheckResult& result, const std::string& file);
/// Each claim as a test case, and one more that fails when there are blockers, as JUnit XML.
std::string junit_report(const Level& level, const check::CheckResult& result);

} // namespace rubble::io
