#pragma once

#include "level/level.h"

namespace rubble {

/// The project with what its assemblies come to worked out: nested ones in them, derived ones from their
/// originals. An assembly whose items come to the same as before stays the very same. One that is in itself,
/// or whose original is missing, comes to nothing and says why: a ring names its chain.
Project with_assemblies_resolved(Project project);

/// The chain of names by which an assembly of that file would come to be within itself if it held, or were
/// derived from, another; empty where it would not.
std::vector<std::string> ring_through(const Project& project, const std::string& file,
                                      const std::string& other);

} // namespace rubble
