#pragma once

#include <filesystem>
#include <vector>

#include "base/result.h"
#include "build/bring_in.h"

namespace rubble::io {

/// The files that a model names beside it and that are there: buffers, materials, pictures.
std::vector<std::filesystem::path> companions_of(const std::filesystem::path& model);

/// The kit with pieces brought in: their files are copied beside the kit's (where they do not lie there
/// already), and joints are found. A piece whose file is that of one that is there takes its place and keeps
/// its id, name, settings and joints put right by hand; its shape is what the file says now. `folder` is what
/// the kit's file is named from.
Result<Kit> brought_into(Kit kit, const std::vector<build::BroughtPiece>& pieces,
                         const std::filesystem::path& folder);

/// A kit whose piece's file was changed on disk, with what no longer fits.
struct FileAgain {
    Kit kit;
    std::vector<std::string> unfit; ///< a sentence each
};
/// The kit with the pieces of one file as the file is now: ids, names, settings and joints put right by hand
/// stay. Fails where the file cannot be read; the pieces stay as they were then.
Result<FileAgain> with_file_again(const Kit& kit, const std::string& file,
                                  const std::filesystem::path& folder);

} // namespace rubble::io
