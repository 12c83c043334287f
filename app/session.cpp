#include "session.h"

#include <QDir>
#include <QFileInfo>

#include <algorithm>
#include <filesystem>

#include "edit/body.h"
#include "edit/layers.h"
#include "edit/openings.h"
#include "edit/project.h"
#include "edit/repeats.h"
#include "io/level_file.h"
#include "level/limits.h"

namespace rubble::app {

namespace fs = std::filesystem;

namespace {

Document fresh_document() {
    Document document;
    document.project = io::new_project("Untitled");
    document.levels.push_back({{}, new_level("Untitled", {"courier"})});
    return document;
}

} // namespace

std::optional<Hit> Built::met_by(const Ray& ray, double cut_z) const {
    if (boxes) return pick(*boxes, hidden, ray, cut_z);
    return surface ? pick(*surface, hidden, ray, cut_z) : std::nullopt;
}

Session::Session(QObject* parent) : QObject(parent), history_(fresh_document()) {}

void Session::start_new() { begin_with(History(fresh_document()), 0); }

Result<void> Session::open(const QString& path) {
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
        files = io::level_files(given);
    } else {
        auto loaded = io::load_level_with_project(given);
        if (!loaded) return tl::unexpected(loaded.error());
        document.folder = loaded->folder.string();
        document.project = loaded->folder.empty() ? io::new_project(loaded->level.name) : loaded->project;
        if (!loaded->folder.empty()) files = io::level_files(loaded->folder);
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
    if (document.levels.empty()) document.levels.push_back({{}, new_level("Untitled", {"courier"})});
    begin_with(History(std::move(document)), wanted);
    return {};
}

void Session::begin_with(History history, size_t index) {
    history_ = std::move(history);
    index_ = index;
    selection_.clear();
    isolated_.clear();
    preview_.reset();
    changed();
    emit documentOpened();
}

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

std::vector<QString> Session::files() const {
    std::vector<QString> out;
    for (const OpenLevel& open : document().levels)
        if (!open.file.empty()) out.push_back(QString::fromStdString(open.file));
    if (const std::string project = project_file(document()); !project.empty())
        out.push_back(QString::fromStdString(project));
    return out;
}

std::vector<QString> Session::unsaved_files() const {
    std::vector<QString> out;
    const Document& saved = history_.last_saved();
    for (size_t i = 0; i < document().levels.size(); ++i)
        if (!document().levels[i].file.empty() && differs(document(), saved, i))
            out.push_back(QString::fromStdString(document().levels[i].file));
    if (const std::string project = project_file(document());
        !project.empty() && project_differs(document(), saved))
        out.push_back(QString::fromStdString(project));
    return out;
}

Result<void> Session::save(const QString& as_file) {
    const Document& saved = history_.last_saved();
    const std::string elsewhere = as_file.toStdString();
    for (size_t i = 0; i < document().levels.size(); ++i) {
        const OpenLevel& open = document().levels[i];
        const bool moves = !elsewhere.empty() && i == index_;
        const std::string& file = moves ? elsewhere : open.file;
        if (file.empty() || (!moves && !differs(document(), saved, i))) continue;
        if (auto written = io::save_level(*open.level, file); !written) return written;
    }
    if (!document().folder.empty() && project_differs(document(), saved))
        if (auto written = io::save_project(*document().project, document().folder); !written) return written;
    if (!elsewhere.empty()) history_.set_file(index_, elsewhere);
    history_.mark_saved();
    emit savedChanged();
    return {};
}

Result<void> Session::reload(const QString& file) {
    Document next = document(), saved = history_.last_saved();
    if (file.toStdString() == project_file(document())) {
        auto project = io::load_project(document().folder);
        if (!project) return tl::unexpected(project.error());
        next.project = saved.project = Shared<Project>(std::move(*project));
    }
    for (size_t i = 0; i < next.levels.size(); ++i) {
        if (next.levels[i].file != file.toStdString()) continue;
        auto level = io::load_level(next.levels[i].file);
        if (!level) return tl::unexpected(level.error());
        next.levels[i].level = Shared<Level>(std::move(*level));
        if (i < saved.levels.size()) saved.levels[i] = next.levels[i];
    }
    history_.set_saved(std::move(saved));
    add(std::move(next), tr("Reload"));
    emit savedChanged();
    return {};
}

void Session::recover(std::optional<Document> in_files, Document recovered, size_t index) {
    History history(in_files ? std::move(*in_files) : recovered);
    if (history.now() == recovered) history.set_saved({});
    history.add(recovered, tr("Recovered work").toStdString());
    begin_with(std::move(history), std::min(index, recovered.levels.size() - 1));
}

void Session::set_gesture(bool going_on) {
    gesture_ = going_on;
    gesture_began_ = false;
}

/// What an edit takes along: what is linked to changed items, and the openings of moved walls.
Level Session::followed(Level level) const {
    return edit::with_openings_following(stored_level(),
                                         edit::with_links_followed(stored_level(), std::move(level)));
}

void Session::add(Document next, const QString& what) {
    preview_.reset();
    if (gesture_ && gesture_began_) history_.undo();
    gesture_began_ = history_.add(std::move(next), what.toStdString()) && gesture_;
    changed();
}

/// What could not be opened again is met while it is made, not when it is lost.
bool Session::can_keep(const Level& level) {
    const auto unkept = unkept_item(stored_level(), level);
    if (!unkept) return true;
    const Item* item = find_item(level, unkept->item);
    const QString title = QString::fromStdString(item ? item->title() : unkept->item.value);
    QString why;
    if (unkept->key == "at")
        why = tr("%1 would lie more than 10 km from the level's origin").arg(title);
    else if (unkept->key == "size" || unkept->key == "points")
        why = tr("%1 would be longer than 1 km, or too thin to be built").arg(title);
    else if (unkept->key == "items")
        why = tr("Groups can be nested %1 deep at most").arg(deepest_group);
    else
        why = tr("The values of %1 would contradict each other (%2)")
                  .arg(title, QString::fromStdString(unkept->key));
    emit message(why);
    return false;
}

void Session::apply(Level level, const QString& what) {
    Level next = followed(std::move(level));
    if (can_keep(next))
        add(edit::with_level(document(), index_, std::move(next)), what);
    else
        drop_preview();
}

void Session::apply(Project project, const QString& what) {
    add(edit::with_project(document(), std::move(project)), what);
}

void Session::preview(Level level) {
    Level next = followed(std::move(level));
    if (!can_keep(next)) return; // what was shown last stays
    preview_ = std::move(next);
    changed();
}

void Session::drop_preview() {
    if (!preview_) return;
    preview_.reset();
    changed();
}

void Session::undo() {
    history_.undo();
    preview_.reset();
    changed();
}

void Session::redo() {
    history_.redo();
    preview_.reset();
    changed();
}

void Session::show_level(size_t index) {
    if (index >= document().levels.size() || index == index_) return;
    index_ = index;
    preview_.reset();
    selection_.clear();
    isolated_.clear();
    changed();
    emit documentOpened();
}

void Session::select(std::vector<ItemId> ids) {
    std::erase_if(ids, [&](const ItemId& id) { return !find_item(level(), id); });
    if (ids == selection_) return;
    selection_ = std::move(ids);
    side_.reset();
    area_.reset();
    picks_ = {};
    emit selectionChanged();
}

void Session::isolate(std::vector<ItemId> ids) {
    isolated_ = std::move(ids);
    changed();
}

Level Session::seen_level() const {
    return isolated_.empty() ? level() : edit::with_only_shown(level(), isolated_);
}

void Session::choose_side(std::optional<BoxSide> side) {
    if (side == side_) return;
    side_ = side;
    emit selectionChanged();
}

std::set<int> Picks::all_points(const FaceMesh& mesh) const {
    std::set<int> out = points;
    for (const edit::MeshEdge& edge : edges) out.insert({edge.a, edge.b});
    for (const int face : faces) out.insert(mesh.faces[size_t(face)].begin(), mesh.faces[size_t(face)].end());
    return out;
}

const Brush* Session::body() const {
    const Item* item = selected();
    const Brush* brush = item ? item->brush() : nullptr;
    if (!brush) return nullptr;
    if (brush->shape == Shape::mass) return nullptr; // has areas, not points
    if (!body_made_of_ || !(*body_made_of_ == *brush)) body_made_of_ = *brush, body_ = edit::as_body(*brush);
    return body_ ? &*body_ : nullptr;
}

const Picks& Session::picks() const {
    static const Picks none;
    if (picks_.empty()) return none;
    const Brush* brush = body();
    return brush && edit::mesh_of(*brush) == picked_of_ ? picks_ : none;
}

void Session::pick(Picks picks) {
    const Brush* brush = body();
    FaceMesh mesh = brush ? edit::mesh_of(*brush) : FaceMesh{};
    if (picks == picks_ && mesh == picked_of_) return;
    picks_ = brush ? std::move(picks) : Picks{};
    picked_of_ = std::move(mesh);
    emit picksChanged();
}

const edit::MassArea* Session::area() const {
    const Item* item = selected();
    const Brush* brush = item ? item->brush() : nullptr;
    if (!area_ || !brush || brush->shape != Shape::mass) return nullptr;
    if (!(brush->cells == area_of_)) {
        if (brush->cells.cell_m != area_of_.cell_m)
            area_.reset();
        else
            area_ = edit::refreshed(brush->cells, *area_);
        area_of_ = brush->cells;
    }
    return area_ ? &*area_ : nullptr;
}

void Session::mark(std::optional<edit::MassArea> area) {
    const Item* item = selected();
    const Brush* brush = item ? item->brush() : nullptr;
    if (!brush || brush->shape != Shape::mass || (area && area->levels.empty())) area.reset();
    if (area) area_of_ = brush->cells;
    if (area == area_) return;
    area_ = std::move(area);
    emit picksChanged();
}

bool Session::warns_first(const MassGrid& cells) {
    if (cells == warned_of_) return false;
    warned_of_ = cells;
    return true;
}

void Session::set_snapping(const Snapping& snapping) {
    if (snapping == snapping_) return;
    snapping_ = snapping;
    emit snappingChanged();
}

void Session::set_plane(std::optional<edit::WorkingPlane> plane) {
    plane_ = std::move(plane);
    emit planeChanged();
}

QString Session::path_of(const QString& name) const {
    return QFileInfo(name).isAbsolute() || file().isEmpty() ? name
                                                            : QFileInfo(file()).absoluteDir().filePath(name);
}

void Session::go_to(Stage stage) {
    if (stage == stage_) return;
    stage_ = stage;
    emit stageChanged();
}

void Session::set_built(Built built) {
    // What a check says of a level that has a newer picture already comes too late.
    if (built.version < built_.version) return;
    // A drawing without its check, or with the tint alone, keeps the last answer, which the window marks as
    // old.
    if (!built.check) built.check = built_.check, built.check_version = built_.check_version;
    if (!built.tint) built.tint = built_.tint;
    built_ = std::move(built);
    emit builtChanged();
}

void Session::changed() {
    ++version_;
    std::vector<ItemId> still;
    for (const ItemId& id : selection_)
        if (find_item(level(), id)) still.push_back(id);
    const bool lost = still.size() != selection_.size();
    selection_ = std::move(still);
    emit levelChanged();
    if (lost) emit selectionChanged();
}

} // namespace rubble::app
