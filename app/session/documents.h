#pragma once

#include <optional>

#include <QObject>
#include <QString>
#include <QStringList>

#include "level/history.h"

namespace rubble::app {

/// The history of what is worked on: a project with its open levels, one of which is shown. All changes of
/// it go through here.
class Documents : public QObject {
    Q_OBJECT
public:
    explicit Documents(QObject* parent = nullptr);

    const Document& document() const { return history_.now(); }
    const Project& project() const { return *document().project; }
    /// The level being shown: while something is dragged, the level as it would be.
    const Level& level() const { return preview_ ? *preview_ : *document().levels[index_].level; }
    const Level& stored_level() const { return *document().levels[index_].level; }
    size_t level_index() const { return index_; }
    /// Grows with every change of what is shown.
    uint64_t version() const { return version_; }
    bool saved() const { return history_.saved(); }
    const Document& last_saved() const { return history_.last_saved(); }
    QString undo_text() const { return QString::fromStdString(history_.undo_text()); }
    QString redo_text() const { return QString::fromStdString(history_.redo_text()); }

    /// An edit of the level, with what follows from it: links and the openings of moved walls. One whose
    /// items could not be saved and opened again is refused, with a message.
    void apply(Level level, const QString& what);
    void apply(Project project, const QString& what);
    /// Any other step of the history.
    void add(Document next, const QString& what);
    /// While a gesture goes on, all that is applied is one step of the history.
    void set_gesture(bool going_on);
    void preview(Level level);
    void drop_preview();
    bool previews() const { return preview_.has_value(); }
    void undo();
    void redo();
    /// What was done, step by step, what was undone among it; which step is the present one. Goes to any.
    QStringList steps() const;
    size_t step() const { return history_.at(); }
    void go_to_step(size_t step);
    void show_level(size_t index);
    /// The level of that name; nothing where there is none.
    std::optional<size_t> level_named(const std::string& name) const;
    /// Forgets what was, and shows a level of another history.
    void begin_with(History history, size_t index);
    /// The document is in its files now; `as_file`: the file that the shown level belongs to from now on.
    void mark_saved(const std::string& as_file);
    /// What is in the files now, where somebody else changed them.
    void set_saved(Document saved);

    void show_message(const QString& text) { emit message(text); }

    /// The same level is to be seen otherwise.
    void show_again();

signals:
    void changed();
    /// A step of the history was made, taken back or made again.
    void edited(const QString& what);
    /// Another level is about to be shown, or all is new; and it is.
    void opening();
    void opened();
    void savedChanged();
    void message(const QString& text);

private:
    Level followed(Level level) const;
    bool can_keep(const Level& level);
    void note_change();

    History history_;
    std::optional<Level> preview_;
    size_t index_ = 0;
    bool gesture_ = false, gesture_began_ = false;
    uint64_t version_ = 1;
};

} // namespace rubble::app
