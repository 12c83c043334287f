#pragma once

#include <filesystem>
#include <vector>

#include "io/json_text.h"
#include "level/level.h"

namespace rubble::io {

/// The assembly format (docs/formats/assembly.schema.json).
inline constexpr int k_assembly_format = 1;

/// Reads an assembly; `place` names the file in messages.
Result<Assembly> assembly_from_text(const std::string& text, const std::string& place);
/// What is written of an assembly.
std::string text_of(const Assembly& assembly);

/// Own values by ids, as they stand in files. @{
OwnById read_own(Reader& in, const std::string& key);
Json own_json(const OwnById& own);
/// @}

/// Reads an assembly. `file` is how levels name it: from `folder`, or a whole path.
Result<Assembly> load_assembly(const std::filesystem::path& folder, const std::string& file);
/// Writes an assembly's file, whole or not at all.
Result<void> save_assembly(const Assembly& assembly, const std::filesystem::path& folder);
/// The assemblies in a project's folder, as levels name them, by name.
std::vector<std::string> assembly_files(const std::filesystem::path& folder);

} // namespace rubble::io
