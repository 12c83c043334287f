#pragma once

#include <filesystem>

#include "io/json_text.h"
#include "motion/recording.h"

namespace rubble::io {

/// A recording as JSON: {"format", "start", "runs": [[steps, stick x, stick y, keys]…]} with keys the sum of
/// 1 jump, 2 crouch, 4 use. Numbers are shortest-exact, so a recording replays bit for bit.
Json to_json(const motion::Recording& recording);
/// Reads a recording; `place` names the file in messages.
Result<motion::Recording> recording_from_json(const Json& json, const std::string& place);

/// Reads a recording's file.
Result<motion::Recording> load_recording(const std::filesystem::path& path);
/// Writes a recording's file, whole or not at all.
Result<void> save_recording(const motion::Recording& recording, const std::filesystem::path& path);

} // namespace rubble::io
