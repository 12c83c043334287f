#pragma once

#include <filesystem>
#include <vector>

#include "cast/cast.h"
#include "io/json_text.h"

namespace rubble::io {

/// The format of rules of casts (docs/formats/cast.schema.json).
inline constexpr int k_cast_format = 1;

/// Reads rules of casts; `place` names the file in messages.
Result<cast::Rules> cast_rules_from_text(const std::string& text, const std::string& place);
/// What is written of rules.
std::string text_of(const cast::Rules& rules);
/// What was found out about a cast.
Json to_json(const cast::Figures& figures);

/// Reads the file of some rules.
Result<cast::Rules> load_cast_rules(const std::filesystem::path& path);
/// Writes the file of some rules, whole or not at all.
Result<void> save_cast_rules(const cast::Rules& rules, const std::filesystem::path& path);
/// The rules in a project's folder, by name.
std::vector<std::filesystem::path> cast_rules_files(const std::filesystem::path& folder);

} // namespace rubble::io
