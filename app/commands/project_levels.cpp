#include "commands/project_levels.h"

#include <algorithm>
#include <filesystem>

#include <QRegularExpression>

#include "edit/clipboard.h"
#include "edit/items.h"
#include "io/project_file.h"

namespace rubble::app {

namespace fs = std::filesystem;

namespace {

/// Files say in which order the levels are played; parts that are open by themselves have no place in it.
Project ordered_as(Project project, const std::vector<OpenLevel>& levels) {
    project.level_order.clear();
    for (const OpenLevel& level : levels)
        if (!level.is_part() && !level.file.empty())
            project.level_order.push_back(fs::path(level.file).filename().string());
    return project;
}

/// A file in the project's folder of levels that no other level has; empty where there is no project.
std::string file_for(const Document& document, const std::string& name) {
    if (document.folder.empty()) return {};
    QString stem = QString::fromStdString(name).toLower().replace(QRegularExpression("[^a-z0-9]+"), "-");
    while (stem.startsWith('-')) stem.remove(0, 1);
    while (stem.endsWith('-')) stem.chop(1);
    if (stem.isEmpty()) stem = QStringLiteral("level");
    const auto taken = [&](const fs::path& file) {
        std::error_code error;
        return fs::exists(file, error) ||
               std::any_of(document.levels.begin(), document.levels.end(),
                           [&](const OpenLevel& level) { return level.file == file.string(); });
    };
    for (int number = 1;; ++number) {
        const QString own = number == 1 ? stem : QStringLiteral("%1-%2").arg(stem).arg(number);
        fs::path file = fs::path(document.folder) / "levels" / (own.toStdString() + ".level.json");
        if (!taken(file)) return file.string();
    }
}

/// A name that no level of the document has: "Hall", "Hall 2".
std::string free_name(const Document& document, const std::string& wanted) {
    const auto taken = [&](const std::string& name) {
        return std::any_of(document.levels.begin(), document.levels.end(),
                           [&](const OpenLevel& level) { return level.level->name == name; });
    };
    std::string name = wanted;
    for (int number = 2; taken(name); ++number) name = wanted + ' ' + std::to_string(number);
    return name;
}

/// Puts a level into the document and shows it.
void put(Session& session, Level level, size_t at, const QString& what) {
    Document next = session.document();
    OpenLevel open;
    open.file = file_for(next, level.name);
    open.level = Shared<Level>(with_files_of(*next.project, std::move(level)));
    at = std::min(at, next.levels.size());
    next.levels.insert(next.levels.begin() + std::ptrdiff_t(at), std::move(open));
    if (!next.folder.empty()) next.project = Shared<Project>(ordered_as(*next.project, next.levels));
    session.documents().add(std::move(next), what);
    session.documents().show_level(at);
}

} // namespace

void move_level(Session& session, size_t index, int by) {
    Document next = session.document();
    const std::ptrdiff_t to = std::ptrdiff_t(index) + by;
    if (index >= next.levels.size() || to < 0 || to >= std::ptrdiff_t(next.levels.size())) return;
    const size_t shown = session.documents().level_index();
    std::swap(next.levels[index], next.levels[size_t(to)]);
    next.project = Shared<Project>(ordered_as(*next.project, next.levels));
    session.documents().add(std::move(next), Session::tr("Order of levels"));
    if (shown == index) session.documents().show_level(size_t(to));
    if (shown == size_t(to)) session.documents().show_level(index);
}

void rename_level(Session& session, size_t index, const QString& name) {
    Document next = session.document();
    const QString wanted = name.trimmed();
    if (index >= next.levels.size() || wanted.isEmpty()) return;
    Level level = *next.levels[index].level;
    level.name = wanted.toStdString();
    next.levels[index].level = Shared<Level>(std::move(level));
    session.documents().add(std::move(next), Session::tr("Name of a level"));
}

void duplicate_level(Session& session, size_t index) {
    const Document& now = session.document();
    if (index >= now.levels.size()) return;
    Level level = *now.levels[index].level;
    level.name = free_name(now, level.name);
    put(session, std::move(level), index + 1, Session::tr("Duplicate a level"));
}

void add_level(Session& session, const QString& name, Frame frame) {
    const Document& now = session.document();
    const CharacterId who =
        now.project->characters.empty() ? CharacterId{"courier"} : now.project->characters[0].id;
    put(session, new_level(free_name(now, name.toStdString()), who, frame), now.levels.size(),
        Session::tr("A new level"));
}

void move_selection_to_level(Session& session, size_t index) {
    Document next = session.document();
    const size_t from = session.documents().level_index();
    if (index >= next.levels.size() || index == from || session.selection().empty()) return;
    const std::vector<ItemId> ids = session.selection();
    const edit::Clip clip = edit::copied(session.stored_level(), ids);
    edit::Copies moved = edit::pasted(*next.levels[index].level, 0, clip, clip.anchor); // where they stood
    next.levels[index].level = Shared<Level>(with_files_of(*next.project, std::move(moved.level)));
    next.levels[from].level = Shared<Level>(edit::without(*next.levels[from].level, ids));
    session.documents().add(std::move(next), Session::tr("Move to another level"));
    session.documents().show_level(index);
    session.select(moved.ids);
}

Result<void> make_project(Session& session, const QString& folder) {
    Document next = session.document();
    const fs::path root = folder.toStdString();
    std::error_code error;
    if (fs::exists(root / "project.json", error))
        return fail("file.write", root.string(),
                    "There is a project in this folder already: open it, or choose another.");
    fs::create_directories(root / "levels", error);
    if (error) return fail("file.write", root.string(), "No folder can be made there.");
    // What a level that stood alone names, it named from its own folder.
    if (const QString file = session.files().file(); next.folder.empty() && !file.isEmpty())
        next = io::with_files_named_from(next, fs::path(file.toStdString()).parent_path(), root);
    next.folder = root.string();
    for (OpenLevel& open : next.levels)
        if (!open.is_part()) {
            open.file.clear();
            open.file = file_for(next, open.level->name);
        }
    Project project = ordered_as(*next.project, next.levels);
    if (project.name.empty() || project.name == "Untitled")
        project.name =
            root.filename().empty() ? root.parent_path().filename().string() : root.filename().string();
    next.project = Shared<Project>(std::move(project));
    session.documents().add(std::move(next), Session::tr("Make a project"));
    return session.files().save();
}

} // namespace rubble::app
