#pragma once

#include <map>
#include <string>

namespace rubble {

/// Keys of a file that this version does not know, with their values as JSON text, so that they are written
/// back as they came.
using Extra = std::map<std::string, std::string>;

} // namespace rubble
