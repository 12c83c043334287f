#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace rubble::io {

/// The content of a file. Errors: it is not there, cannot be read, or is larger than 256 MB.
Result<std::string> read_file(const std::filesystem::path& path);

/// Writes a file whole or not at all: beside the old one, forced to the disk, then put in its place. On an
/// error the old file is as it was.
Result<void> write_file(const std::filesystem::path& path, const std::string& content);

} // namespace rubble::io
