#pragma once

#include <filesystem>
#include <vector>

#include "io/json_text.h"
#include "level/document.h"

namespace rubble::io {

/// The project format (docs/formats/project.schema.json).
inline constexpr int k_project_format = 1;

/// Reads a project; `place` names the file in messages.
Result<Project> project_from_text(const std::string& text, const std::string& place);
/// What is written of a project.
std::string text_of(const Project& project);

/// The project of a folder, with the sheets and kits in it that can be read; and the level files in it, in
/// the order of their names.
Result<Project> load_project(const std::filesystem::path& folder);
/// Writes the project's own file and its sheets, each whole or not at all. Of the sheets only those that are
/// not the very same as in `saved`.
Result<void> save_project(const Project& project, const std::filesystem::path& folder,
                          const Project& saved = {});
/// The project with the sheets that a level names and it does not have yet, read from `folder`. What cannot
/// be read is left out, with a remark.
Project with_files_for(Project project, const Level& level, const std::filesystem::path& folder,
                       std::vector<Error>& remarks);
/// Where a document's sheets are named from: the project's folder, or that of a level that stands alone.
std::filesystem::path files_folder(const Document& document, const std::string& level_file);
/// The document with the sheets that its levels name and it does not have yet, and with its levels drawn from
/// the sheets it has then. What cannot be read is left out, with a remark.
Document with_files_read(Document document, std::vector<Error>& remarks);
/// The document with its sheets named from another folder than before, so that each name means the same file.
/// Whole paths stay.
Document with_files_named_from(Document document, const std::filesystem::path& before,
                               const std::filesystem::path& now);
/// Whether an assembly is to be written: its own values and items differ, not what they come to.
bool differs(const std::shared_ptr<const Assembly>& saved, const Assembly& now);
/// The files of its levels: those of `order`, by their names in the folder of levels, then the others by
/// name.
std::vector<std::filesystem::path> level_files(const std::filesystem::path& folder,
                                               const std::vector<std::string>& order = {});

/// The folder of the project a level file belongs to: the nearest one above it with a project.json; empty
/// for a level that stands alone.
std::filesystem::path project_folder_of(const std::filesystem::path& level_file);

/// A level with its project, or with the program's own metrics where it has none.
struct LoadedLevel {
    Project project;
    Level level;
    std::filesystem::path folder;
    std::vector<Error> remarks; ///< what else could not be read
};
/// Reads a level, and the project that it lies in.
Result<LoadedLevel> load_level_with_project(const std::filesystem::path& path);

/// A project with the standard figure and a few plain materials.
Project new_project(const std::string& name);

} // namespace rubble::io
