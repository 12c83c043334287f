#pragma once

#include <optional>
#include <vector>

#include "io/project_file.h"
#include "session/documents.h"

namespace rubble::app {

/// The files that the open document belongs to.
class ProjectFiles {
public:
    explicit ProjectFiles(Documents& documents) : documents_(documents) {}

    void start_new(Frame frame = Frame::space);
    /// Opens a project folder, a project.json or a level file. On an error the open document stays.
    Result<void> open(const QString& path);
    /// Writes what differs from its file. `as_file`: the file that the shown level belongs to from now on.
    Result<void> save(const QString& as_file = {});
    /// Takes a file of the document as it is on disk now, as one step that can be undone.
    Result<void> reload(const QString& file);
    /// Makes `recovered` the newest step after what is in the files; nothing in them: none of it is saved.
    void recover(std::optional<Document> in_files, Document recovered, size_t index);

    /// Of the shown level; empty where it has none.
    QString file() const;
    /// A file that the level names, which may lie beside its own.
    QString path_of(const QString& name) const;
    /// All files of the open document.
    std::vector<QString> all() const;
    /// The files that `save` would write to: levels, and the project's own.
    std::vector<QString> unsaved() const;

private:
    void name_files_from(const std::string& elsewhere);
    Documents& documents_;
};

/// A project of one empty level.
Document fresh_document(Frame frame = Frame::space);

} // namespace rubble::app
