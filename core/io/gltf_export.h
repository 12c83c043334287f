#pragma once

#include <filesystem>

#include "base/result.h"
#include "level/document.h"

namespace rubble::io {

/// glTF 2.0: a node for each layer and each group with brushes; under it "NAME collision" and the elements
/// as empty nodes with their values in `extras`. Metres, y up as the standard asks: (x, y, z) here is
/// (x, z, -y) there. Names and order are the same from one export to the next.
Result<std::string> gltf_text(const Project& project, const Level& level, bool binary);

/// The same as a file: binary, or as text with its buffers inside.
Result<void> export_glb(const Project& project, const Level& level, const std::filesystem::path& path);
/// Writes a level as glTF or GLB, by the file's ending.
Result<void> export_gltf(const Project& project, const Level& level, const std::filesystem::path& path);

} // namespace rubble::io
