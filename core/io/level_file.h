#pragma once

#include <filesystem>

#include "io/json_text.h"
#include "level/level.h"

namespace rubble::io {

/// The level format (docs/formats/level.schema.json). Unknown keys are kept and written back; versions newer
/// than this program's are refused.
inline constexpr int k_level_format = 1;

/// Reads a level; `place` names the file in messages.
Result<Level> level_from_text(const std::string& text, const std::string& place);
/// What is written of a level.
std::string text_of(const Level& level);

/// Reads a level's file.
Result<Level> load_level(const std::filesystem::path& path);
/// Writes a level's file, whole or not at all.
Result<void> save_level(const Level& level, const std::filesystem::path& path);

} // namespace rubble::io
