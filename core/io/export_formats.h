#pragma once

#include <filesystem>
#include <span>

#include "base/result.h"
#include "level/document.h"

namespace rubble::io {

/// A form in which a level is handed off; a new one is a row of `export_formats` and its writer.
struct ExportFormat {
    const char* ending; ///< of files, with the point
    const char* about;  ///< in English
    Result<void> (*write)(const Project&, const Level&, const std::filesystem::path&);
};

/// In the order in which they are offered.
std::span<const ExportFormat> export_formats();
/// The endings with something between them: ".glb, .gltf, .obj".
std::string export_endings(const std::string& between);

/// Writes by the ending of the path; an error names the endings there are.
Result<void> export_level(const Project& project, const Level& level, const std::filesystem::path& path);

} // namespace rubble::io
