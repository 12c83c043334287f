#include "session/project_files.h"

#include <QDir>
#include <QFileInfo>

#include <algorithm>
#include <filesystem>

#include "io/assembly_file.h"
#include "io/kit_file.h"
#include "io/level_file.h"
#include "io/sheet_file.h"

namespace rubble::app {

namespace fs = std::filesystem;

namespace {

std::string project_file(const Document& document) {
    return document.folder.empty() ? std::string() : (fs::path(document.folder) / "project.json").string();
}

/// Whether a level is not in its file as it is now. `saved` may be a document of other levels.
bool differs(const Document& now, const Document& saved, size_t i) {
    return i >= saved.levels.size() || !(now.levels[i] == saved.levels[i]);
}
bool project_differs(const Document& now, const Document& saved) {
    return now.folder != saved.folder || !(now.project == saved.project);
}

} // namespace

Document fresh_document(Frame frame) {
    Document document;
    document.project = io::new_project("Untitled");
    document.levels.push_back({{}, new_level("Untitled", {"courier"}, frame)});
    return document;
}

void ProjectFiles::start_new(Frame frame) { documents_.begin_with(History(fresh_document(frame)), 0); }

QString ProjectFiles::file() const {
    return QString::fromStdString(documents_.document().levels[documents_.level_index()].file);
}

Result<void> ProjectFiles::open(const QString& path) {
    fs::path given = fs::path(path.toStdString()).lexically_normal();
    if (given.filename() == "project.json") given = given.parent_path();
    Document document;
    std::vector<fs::path> files;
    size_t wanted = 0;
    if (fs::is_directory(given)) {
        auto project = io::load_project(given);
        if (!project) return tl::unexpected(project.error());
        document.folder = given.string();
        document.project = std::move(*project);
        files = io::level_files(given, document.project->level_order);
    } else {
        auto loaded = io::load_level_with_project(given);
        if (!loaded) return tl::unexpected(loaded.error());
        document.folder = loaded->folder.string();
        document.project = loaded->folder.empty() ? io::new_project(loaded->level.name) : loaded->project;
        if (!loaded->folder.empty()) files = io::level_files(loaded->folder, loaded->project.level_order);
        const auto same = [&](const fs::path& file) {
            std::error_code error;
            return fs::equivalent(file, given, error);
        };
        // One that lies elsewhere than the project's others is opened beside them.
        wanted = size_t(std::find_if(files.begin(), files.end(), same) - files.begin());
        if (wanted == files.size()) files.push_back(given);
    }
    for (const fs::path& file : files) {
        auto level = io::load_level(file);
        if (!level) return tl::unexpected(level.error());
        document.levels.push_back({file.string(), std::move(*level)});
    }
    std::vector<Error> remarks;
    document = io::with_files_read(std::move(document), remarks);
    if (document.levels.empty()) document.levels.push_back({{}, new_level("Untitled", {"courier"})});
    documents_.begin_with(History(std::move(document)), wanted);
    if (!remarks.empty()) documents_.show_message(QString::fromStdString(remarks.front().text()));
    return {};
}

std::vector<QString> ProjectFiles::all() const {
    std::vector<QString> out;
    for (const OpenLevel& open : documents_.document().levels)
        if (!open.file.empty()) out.push_back(QString::fromStdString(open.file));
    if (const std::string project = project_file(documents_.document()); !project.empty())
        out.push_back(QString::fromStdString(project));
    return out;
}

std::vector<QString> ProjectFiles::unsaved() const {
    std::vector<QString> out;
    const Document& saved = documents_.last_saved();
    for (size_t i = 0; i < documents_.document().levels.size(); ++i)
        if (!documents_.document().levels[i].file.empty() && differs(documents_.document(), saved, i))
            out.push_back(QString::fromStdString(documents_.document().levels[i].file));
    if (const std::string project = project_file(documents_.document());
        !project.empty() && project_differs(documents_.document(), saved))
        out.push_back(QString::fromStdString(project));
    return out;
}

/// A level that stands alone names its sheets from its own folder: saved elsewhere, it still means the same.
void ProjectFiles::name_files_from(const std::string& elsewhere) {
    const Document& document = documents_.document();
    if (elsewhere.empty() || !document.folder.empty() ||
        (document.project->sheets.empty() && document.project->kits.empty() &&
         document.project->assemblies.empty()))
        return;
    const fs::path before = fs::path(file().toStdString()).parent_path(),
                   now = fs::path(elsewhere).parent_path();
    if (file().isEmpty() || before == now) return;
    documents_.add(io::with_files_named_from(document, before, now), Documents::tr("Save elsewhere"));
}

Result<void> ProjectFiles::save(const QString& as_file) {
    const std::string elsewhere = as_file.toStdString();
    name_files_from(elsewhere);
    const Document& saved = documents_.last_saved();
    for (size_t i = 0; i < documents_.document().levels.size(); ++i) {
        const OpenLevel& open = documents_.document().levels[i];
        const bool moves = !elsewhere.empty() && i == documents_.level_index();
        const std::string& file = moves ? elsewhere : open.file;
        if (file.empty() || (!moves && !differs(documents_.document(), saved, i))) continue;
        if (auto written = io::save_level(*open.level, file); !written) return written;
    }
    const Document& document = documents_.document();
    const std::string& shown = elsewhere.empty() ? document.levels[documents_.level_index()].file : elsewhere;
    const bool has_place = !document.folder.empty() || !shown.empty();
    for (const auto& sheet : document.project->sheets)
        if (find_sheet(*saved.project, sheet->file) != sheet && has_place)
            if (auto written = io::save_sheet(*sheet, io::files_folder(document, shown)); !written)
                return written;
    for (const auto& kit : document.project->kits)
        if (find_kit(*saved.project, kit->file) != kit && has_place)
            if (auto written = io::save_kit(*kit, io::files_folder(document, shown)); !written)
                return written;
    for (const auto& assembly : document.project->assemblies)
        if (has_place && io::differs(find_assembly(*saved.project, assembly->file), *assembly))
            if (auto written = io::save_assembly(*assembly, io::files_folder(document, shown)); !written)
                return written;
    if (!document.folder.empty() && project_differs(document, saved))
        if (auto written = io::save_project(*document.project, document.folder, *document.project); !written)
            return written;
    documents_.mark_saved(elsewhere);
    return {};
}

Result<void> ProjectFiles::reload(const QString& file) {
    Document next = documents_.document(), saved = documents_.last_saved();
    if (file.toStdString() == project_file(documents_.document())) {
        auto project = io::load_project(documents_.document().folder);
        if (!project) return tl::unexpected(project.error());
        next.project = saved.project = Shared<Project>(std::move(*project));
    }
    for (size_t i = 0; i < next.levels.size(); ++i) {
        if (next.levels[i].file != file.toStdString()) continue;
        auto level = io::load_level(next.levels[i].file);
        if (!level) return tl::unexpected(level.error());
        next.levels[i].level = Shared<Level>(with_files_of(*next.project, std::move(*level)));
        if (i < saved.levels.size()) saved.levels[i] = next.levels[i];
    }
    documents_.set_saved(std::move(saved));
    documents_.add(std::move(next), Documents::tr("Reload"));
    return {};
}

void ProjectFiles::recover(std::optional<Document> in_files, Document recovered, size_t index) {
    History history(in_files ? std::move(*in_files) : recovered);
    if (history.now() == recovered) history.set_saved({});
    history.add(recovered, Documents::tr("Recovered work").toStdString());
    documents_.begin_with(std::move(history), std::min(index, recovered.levels.size() - 1));
}

QString ProjectFiles::path_of(const QString& name) const {
    return QFileInfo(name).isAbsolute() || file().isEmpty() ? name
                                                            : QFileInfo(file()).absoluteDir().filePath(name);
}

} // namespace rubble::app
