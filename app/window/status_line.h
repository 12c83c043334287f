#pragma once

#include <functional>

#include <QLabel>
#include <QStatusBar>
#include <QTimer>
#include <QToolButton>

#include "commands/commands.h"
#include "session/session.h"

namespace rubble::app {

/// The line under the views: grid, pointer, what places snap to, what the tool says or what was told last,
/// and how the check stands.
class StatusLine : public QStatusBar {
    Q_OBJECT
public:
    explicit StatusLine(Session& session);

    void show_pointer(const Vec3& at);
    /// Something that has happened: it stays for a few seconds in place of the tool's hint.
    void tell(const QString& text);
    /// What the tool says; it comes after what was told, so that there is time to read that.
    void show_hint(const QString& hint);
    /// A button for a while.
    void offer(const QString& text, std::function<void()> act);
    void drop_offers();
    /// The switches of snapping, for the menu of the button that says what places snap to.
    void show_switches(const Commands& commands);

private:
    QLabel* add_label(bool right);
    void show_snapping();
    void show_check();

    Session& session_;
    QLabel *grid_ = nullptr, *pointer_ = nullptr, *hint_ = nullptr, *checked_ = nullptr;
    QToolButton* snap_ = nullptr;
    std::vector<QAction*> switches_; ///< in the order of `k_snap_switches`
    QString tool_hint_;
    QTimer told_; ///< while it runs, what was told last stays
};

} // namespace rubble::app
