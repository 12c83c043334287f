#pragma once

#include <QString>

#include "level/level.h"

namespace rubble::app {

/// In words, a line each: which items are only in the file, only here or different, and what else differs.
QString difference_text(const Level& here, const Level& in_file);
/// The same of what the levels of a project have agreed on.
QString difference_text(const Project& here, const Project& in_file);

} // namespace rubble::app
