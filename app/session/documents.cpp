#include "session/documents.h"

#include "build/joints.h"
#include "build/piece_body.h"
#include "edit/assemblies.h"
#include "edit/kits.h"
#include "edit/openings.h"
#include "edit/project.h"
#include "edit/repeats.h"
#include "level/limits.h"
#include "session/project_files.h"

namespace rubble::app {

Documents::Documents(QObject* parent) : QObject(parent), history_(fresh_document()) {}

void Documents::begin_with(History history, size_t index) {
    history_ = std::move(history);
    index_ = index;
    preview_.reset();
    emit opening();
    note_change();
    emit opened();
}

void Documents::show_again() { note_change(); }

void Documents::note_change() {
    ++version_;
    // A step may have taken away the level that was shown: the last one is shown instead.
    const bool gone = index_ >= document().levels.size();
    if (gone) {
        index_ = document().levels.size() - 1;
        emit opening();
    }
    emit changed();
    if (gone) emit opened();
}

void Documents::mark_saved(const std::string& as_file) {
    if (!as_file.empty()) history_.set_file(index_, as_file);
    history_.mark_saved();
    emit savedChanged();
}

void Documents::set_saved(Document saved) {
    history_.set_saved(std::move(saved));
    emit savedChanged();
}

void Documents::set_gesture(bool going_on) {
    gesture_ = going_on;
    gesture_began_ = false;
}

/// What an edit takes along: what is linked to changed items, and the openings of moved walls.
Level Documents::followed(Level level) const {
    level = edit::with_openings_following(stored_level(),
                                          edit::with_links_followed(stored_level(), std::move(level)));
    return edit::with_own_values_followed(stored_level(), std::move(level));
}

void Documents::add(Document next, const QString& what) {
    preview_.reset();
    next = edit::with_pieces_followed(document(), std::move(next), [](Kit kit) {
        return build::with_joints_found(build::with_brush_bodies(std::move(kit)));
    });
    next = edit::with_assemblies_followed(document(), std::move(next));
    if (gesture_ && gesture_began_) history_.undo();
    gesture_began_ = history_.add(std::move(next), what.toStdString()) && gesture_;
    emit edited(what);
    note_change();
}

/// What could not be opened again is met while it is made, not when it is lost.
bool Documents::can_keep(const Level& level) {
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

void Documents::apply(Level level, const QString& what) {
    Level next = followed(std::move(level));
    if (can_keep(next))
        add(edit::with_level(document(), index_, std::move(next)), what);
    else
        drop_preview();
}

void Documents::apply(Project project, const QString& what) {
    add(edit::with_project(document(), std::move(project)), what);
}

void Documents::preview(Level level) {
    Level next = followed(std::move(level));
    if (!can_keep(next)) return; // what was shown last stays
    preview_ = std::move(next);
    note_change();
}

void Documents::drop_preview() {
    if (!preview_) return;
    preview_.reset();
    note_change();
}

void Documents::undo() {
    const QString what = undo_text();
    history_.undo();
    preview_.reset();
    emit edited(tr("%1 undone").arg(what));
    note_change();
}

void Documents::redo() {
    const QString what = redo_text();
    history_.redo();
    preview_.reset();
    emit edited(what);
    note_change();
}

QStringList Documents::steps() const {
    QStringList out;
    for (size_t i = 0; i < history_.size(); ++i) out << QString::fromStdString(history_.what(i));
    return out;
}

void Documents::go_to_step(size_t step) {
    if (step >= history_.size() || step == history_.at()) return;
    const bool back = step < history_.at();
    const QString what = QString::fromStdString(history_.what(step));
    history_.go_to(step);
    preview_.reset();
    emit edited(back ? tr("Back to: %1").arg(what) : what);
    note_change();
}

std::optional<size_t> Documents::level_named(const std::string& name) const {
    for (size_t i = 0; i < document().levels.size(); ++i)
        if (document().levels[i].level->name == name) return i;
    return {};
}

void Documents::show_level(size_t index) {
    if (index >= document().levels.size() || index == index_) return;
    index_ = index;
    preview_.reset();
    emit opening();
    note_change();
    emit opened();
}

} // namespace rubble::app
