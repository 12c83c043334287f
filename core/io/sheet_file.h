#pragma once

#include <filesystem>
#include <vector>

#include "io/json_text.h"
#include "level/level.h"

namespace rubble::io {

/// The sheet format (docs/formats/sheet.schema.json).
inline constexpr int k_sheet_format = 1;

/// Reads a sheet without its picture; `place` names the file in messages.
Result<TileSheet> sheet_from_text(const std::string& text, const std::string& place);
/// What is written of a sheet.
std::string text_of(const TileSheet& sheet);

/// Reads a sheet and its picture. `file` is how levels name it: from `folder`, or a whole path. A picture
/// that cannot be read leaves the sheet without one, with a remark.
Result<TileSheet> load_sheet(const std::filesystem::path& folder, const std::string& file,
                             std::vector<Error>& remarks);
/// Writes a sheet's file, whole or not at all; its picture is left alone.
Result<void> save_sheet(const TileSheet& sheet, const std::filesystem::path& folder);
/// The sheets in a project's folder, as levels name them, by name.
std::vector<std::string> sheet_files(const std::filesystem::path& folder);
/// Where a sheet's picture lies.
std::filesystem::path picture_path(const TileSheet& sheet, const std::filesystem::path& folder);

} // namespace rubble::io
