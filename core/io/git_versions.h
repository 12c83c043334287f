#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "level/document.h"

namespace rubble::io {

/// A version of a file that git keeps.
struct GitVersion {
    std::string id;      ///< of its commit
    int64_t seconds = 0; ///< since 1970, when it was made
    std::string author, summary;
};

/// The versions in which a file differs from the one before, the newest first, `most` of them; none where the
/// file is in no repository. An error where git's files cannot be read.
Result<std::vector<GitVersion>> git_versions_of(const std::filesystem::path& file, size_t most = 50);

/// What a file was in a version: the id of a commit, or a name that git knows, such as HEAD or a branch.
Result<std::string> file_in_git(const std::filesystem::path& file, const std::string& version);

/// A level as it was in a version, with the characters and grades that its project had then; sheets, kits and
/// materials are those of `now`.
struct LevelInGit {
    Project project;
    Level level;
};
/// See LevelInGit.
Result<LevelInGit> level_in_git(const std::filesystem::path& file, const std::string& version,
                                const Project& now);

} // namespace rubble::io
