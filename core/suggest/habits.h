#pragma once

#include <string>

#include "level/level.h"

namespace rubble::suggest {

/// How much a project likes what is suggested, from what it kept and threw away of a kind: the mean of a
/// beta distribution that began even (Laplace's rule of succession), 0 to 1.
double liking(const Project& project, const std::string& kind);

/// The project after something of a kind was kept, or thrown away. @{
Project with_kept(Project project, const std::string& kind);
Project with_thrown(Project project, const std::string& kind);
/// @}
/// The project with nothing learned.
Project with_nothing_learned(Project project);

} // namespace rubble::suggest
