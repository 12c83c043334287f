#pragma once

#include <string>
#include <vector>

#include "level/level.h"

namespace rubble {

/// A level of the open project with the file it belongs to (empty while it has none).
struct OpenLevel {
    std::string file;
    Shared<Level> level;
    /// Of one that is an assembly opened by itself: its file, which the project has.
    std::string assembly = {};
    /// Of one that is a piece opened by itself, with the brushes that it is made of or met as: its kit's
    /// file, and its id.
    std::string kit = {}, piece = {};

    /// Whether it is a part of levels rather than one.
    bool is_part() const { return !assembly.empty() || !piece.empty(); }
    bool operator==(const OpenLevel&) const = default;
};

/// All that is being worked on: the project and its open levels. A value; edits make new ones.
struct Document {
    std::string folder; ///< the project's; empty for a level that stands alone
    Shared<Project> project;
    std::vector<OpenLevel> levels;
    bool operator==(const Document&) const = default;
};

} // namespace rubble
