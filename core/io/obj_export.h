#pragma once

#include <filesystem>

#include "base/result.h"
#include "level/document.h"

namespace rubble::io {

/// Wavefront OBJ with its .mtl beside it: an object for each part and for its collision, y up, metres.
Result<void> export_obj(const Project& project, const Level& level, const std::filesystem::path& path);

} // namespace rubble::io
