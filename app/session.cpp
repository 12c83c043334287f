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

void Session::start_new() {
    history_ = History(fresh_document());
    index_ = 0;
    selection_.clear();
    changed();
    emit documentOpened();
}

Result<void> Session::open(const QString& path) {
    fs::path given = path.toStdString();
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
        files = loaded->folder.empty() ? std::vector<fs::path>{given} : io::level_files(loaded->folder);
        std::error_code error;
        for (size_t i = 0; i < files.size(); ++i)
            if (fs::equivalent(files[i], given, error)) wanted = i;
    }
    for (const fs::path& file : files) {
        auto level = io::load_level(file);
        if (!level) return tl::unexpected(level.error());
        document.levels.push_back({file.string(), std::move(*level)});
    }
    if (document.levels.empty()) document.levels.push_back({{}, new_level("Untitled", {"courier"})});
    history_ = History(std::move(document));
    index_ = wanted;
    selection_.clear();
    isolated_.clear();
    preview_.reset();
    changed();
    emit documentOpened();
    return {};
}

Result<void> Session::save(const QString& as_file) {
    Document document = history_.now();
    if (!as_file.isEmpty()) document.levels[index_].file = as_file.toStdString();
    for (const OpenLevel& open : document.levels) {
        if (open.file.empty()) continue;
        if (auto written = io::save_level(*open.level, open.file); !written) return written;
    }
    if (!document.folder.empty())
        if (auto written = io::save_project(*document.project, document.folder); !written) return written;
    if (!as_file.isEmpty()) history_.add(std::move(document), "Save as");
    history_.mark_saved();
    emit savedChanged();
    return {};
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

void Session::apply(Level level, const QString& what) {
    add(edit::with_level(document(), index_, followed(std::move(level))), what);
}

void Session::apply(Project project, const QString& what) {
    add(edit::with_project(document(), std::move(project)), what);
}

void Session::preview(Level level) {
    preview_ = followed(std::move(level));
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
