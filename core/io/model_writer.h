#pragma once

#include "base/result.h"
#include "level/level.h"

namespace rubble::io {

/// A model, z up, as the bytes of a GLB file with one object. Materials of the project are written as they
/// are.
Result<std::string> glb_of(const Project& project, const Model& model, const std::string& name);

} // namespace rubble::io
