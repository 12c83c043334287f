#pragma once

#include <string>
#include <vector>

#include "check/check.h"
#include "parcel/plan.h"

namespace rubble::parcel {

/// What testers read: what was checked and holds, the way to the goal, spans, findings, and plans; one page
/// of HTML that needs nothing else. The plans are drawings as text (SVG).
std::string test_report(const Project& project, const Level& level, const check::CheckResult& result,
                        const std::vector<std::string>& plans);

} // namespace rubble::parcel
