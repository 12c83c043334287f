#include "window/main_window.h"

#include <QBuffer>
#include <QDir>
#include <QFileInfo>
#include <QInputDialog>

#include "check/rules.h"
#include "commands/beginnings.h"
#include "finding_walk.h"
#include "io/level_file.h"
#include "project/project_page.h"
#include "settings/settings_dialog.h"
#include "tools/tool_list.h"

namespace rubble::app {

// The dialogs that the window opens, and what one is at in it.

/// The keys go on in another part of the window: the views, what can be put down, what it is, what was found.
void MainWindow::go_to_panel(int by) {
    QWidget* const panels[] = {header_, tray_, space_, plan_, facts_, desk_};
    const int count = int(std::size(panels));
    const QWidget* now = QApplication::focusWidget();
    int at = 2; // the main view
    for (int i = 0; i < count; ++i)
        if (now && (panels[i] == now || panels[i]->isAncestorOf(now))) at = i;
    for (int step = 1; step <= count; ++step) {
        QWidget* panel = panels[((at + by * step) % count + count) % count];
        if (!panel->isVisible()) continue;
        if (panel == space_ || panel == plan_) return panel->setFocus(Qt::TabFocusReason);
        for (QWidget* in = panel->nextInFocusChain(); in != panel; in = in->nextInFocusChain())
            if (panel->isAncestorOf(in) && in->isVisible() && in->isEnabled() &&
                in->focusPolicy() & Qt::TabFocus)
                return in->setFocus(Qt::TabFocusReason);
    }
}

void MainWindow::open_project_page() {
    ProjectPage page(session_, this);
    connect(
        &page, &ProjectPage::commandWanted, this,
        [this](const QString& id) {
            if (const Commands::Command* command = commands_->find(id)) command->action->trigger();
        },
        Qt::QueuedConnection);
    connect(
        &page, &ProjectPage::beginWanted, this,
        [this](const QString& file) {
            if (files_->may_lose_work()) begin_from_level(session_, *this, file);
        },
        Qt::QueuedConnection);
    page.exec();
}

/// What is seen from the starts, goals and named places, at the height of the character's eyes.
parcel::Pictures MainWindow::pictures_of_places() {
    constexpr size_t k_most = 12;
    constexpr QSize k_size(640, 400);
    constexpr double k_eyes = 0.92; // of the height
    parcel::Pictures out;
    if (session_.level().frame != Frame::space) return out;
    for (const Item* item : elements_of(session_.level())) {
        const Role role = role_of(*item->element());
        if (out.size() >= k_most || (role != Role::start && role != Role::goal && role != Role::place))
            continue;
        const Vec3 feet = met_at(session_.level(), *item->element());
        const Vec3 eye = feet + Vec3(0, 0, session_.character().height_m * k_eyes);
        QByteArray png;
        QBuffer buffer(&png);
        space_->picture_from(eye, item->element()->facing_deg)
            .scaled(k_size, Qt::KeepAspectRatio, Qt::SmoothTransformation)
            .save(&buffer, "PNG");
        out[item->title()] = png.toStdString();
    }
    return out;
}

void MainWindow::open_settings() {
    SettingsDialog dialog(
        *commands_, [this](const Preferences& preferences) { use(preferences); }, this);
    dialog.exec();
}

/// Beside the level's file, under a name.
void MainWindow::save_version() {
    const QString file = session_.files().file();
    if (file.isEmpty()) return status_->tell(tr("Save the level first"));
    bool taken = false;
    const QString name = QInputDialog::getText(this, tr("Save a version"), tr("Name of the version"),
                                               QLineEdit::Normal, {}, &taken);
    if (!taken || name.trimmed().isEmpty()) return;
    const QString path = version_path(file, name);
    if (QFileInfo::exists(path)) return status_->tell(tr("There is a version of that name already"));
    QDir().mkpath(QFileInfo(path).path());
    const auto saved = io::save_level(session_.stored_level(), path.toStdString());
    status_->tell(saved ? tr("Kept as %1").arg(name.trimmed())
                        : QString::fromStdString(saved.error().text()));
    if (saved) desk_->versions_page().look_for_versions();
}

/// The field that has the keys, the finding that was gone to, or the tool in the hand.
QString MainWindow::what_one_is_at() const {
    const QWidget* focus = QApplication::focusWidget();
    const bool in_view = !focus || focus == space_ || focus == plan_;
    if (session_.stage() == Stage::check && finding_walk_->last()) // its rule, unless a field is asked about
        if (in_view || qobject_cast<const QAbstractItemView*>(focus))
            return QString::fromLatin1(check::rule_of(finding_walk_->last()->rule).key);
    if (!in_view && !focus->accessibleName().isEmpty()) return focus->accessibleName();
    const ToolEntry* tool = find_tool(tray_->tool());
    return tool ? tool->label() : QString();
}

} // namespace rubble::app
