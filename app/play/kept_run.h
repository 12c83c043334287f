#pragma once

#include <vector>

#include <QString>

#include "check/check.h"
#include "io/project_file.h"

namespace rubble::app {

/// Elements that a run by hand gets to although the check says that nobody does: mistakes of the check.
std::vector<const Item*> refuted_by(const motion::Recording& recording, const check::CheckResult& result,
                                    const Level& level);

/// Where the runs of a level are kept, named by the time; empty for a level outside any project.
QString kept_run_path(const Document& document, const Level& level);

} // namespace rubble::app
