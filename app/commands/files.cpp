#include "commands/files.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>

#include "difference_text.h"
#include "edit/layer_scheme.h"
#include "edit/underlays.h"
#include "io/export_formats.h"
#include "io/level_file.h"
#include "level/diff.h"
#include "window/arrangement.h"
#include "window/new_level_dialog.h"

namespace rubble::app {

Files::Files(Session& session, QWidget& window) : QObject(&window), session_(session), window_(window) {
    connect(&session_, &Session::documentOpened, this, [this] { disk_.watch(session_.files().all()); });
    connect(&disk_, &DiskWatch::changedByOthers, this, &Files::changed_on_disk);
}

Files::~Files() { exports_.waitForDone(); }

void Files::start_new(std::optional<Frame> frame) {
    if (!may_lose_work()) return;
    const auto beginning = frame ? std::optional(Beginning{*frame}) : ask_beginning(window_);
    if (!beginning) return;
    session_.files().start_new(beginning->frame);
    if (beginning->all_wall) session_.apply(edit::all_wall(session_.stored_level()), tr("Begin all wall"));
}

void Files::ask_and_open() {
    const QString path =
        QFileDialog::getOpenFileName(&window_, tr("Open a project or a level"), {}, tr("Rubble (*.json)"));
    if (!path.isEmpty()) ask_and_open(path);
}

void Files::ask_and_open(const QString& path) {
    if (may_lose_work()) open(path);
}

bool Files::add_underlay(int axis, const Vec3& at) {
    const QString path = QFileDialog::getOpenFileName(&window_, tr("Lay a picture under the level"), {},
                                                      tr("Pictures (*.png *.jpg *.jpeg *.svg)"));
    if (path.isEmpty()) return false;
    constexpr double k_first_width_m = 20;
    Underlay underlay;
    underlay.axis = axis, underlay.at = at, underlay.width_m = k_first_width_m;
    // Beside the level, or below it, by its short name: so the project can be moved as a whole.
    const QString beside = session_.files().file().isEmpty()
                               ? QString()
                               : QFileInfo(session_.files().file()).absoluteDir().relativeFilePath(path);
    underlay.file = (beside.isEmpty() ? path : beside).toStdString();
    session_.apply(edit::with_underlay(session_.stored_level(), underlay), tr("Lay a picture under"));
    return true;
}

bool Files::open(const QString& path) {
    const auto opened = session_.files().open(path);
    if (opened) {
        remember_file(path);
        return true;
    }
    const QString problem = QString::fromStdString(opened.error().text());
    if (window_.isVisible())
        QMessageBox::warning(&window_, tr("Could not open"), problem);
    else
        fprintf(stderr, "%s\n", qPrintable(problem));
    return false;
}

void Files::save() {
    // An assembly or a piece that is open by itself is the project's.
    const OpenLevel& shown = session_.document().levels[session_.documents().level_index()];
    const bool has_place = !session_.files().file().isEmpty() || shown.is_part();
    if (!has_place)
        save_elsewhere();
    else
        save_as({});
}

void Files::save_elsewhere() {
    QString path = QFileDialog::getSaveFileName(&window_, tr("Save the level"), session_.files().file(),
                                                tr("Levels (*.level.json)"));
    if (path.isEmpty()) return;
    if (!path.endsWith(QStringLiteral(".level.json"))) path += QStringLiteral(".level.json");
    save_as(path);
}

void Files::save_as(const QString& path) {
    std::vector<QString> writes = session_.files().unsaved();
    if (!path.isEmpty()) std::erase(writes, session_.files().file()); // it stays as it is
    if (!may_overwrite(writes)) return;
    const auto saved = session_.files().save(path);
    if (!saved)
        QMessageBox::warning(&window_, tr("Could not save"), QString::fromStdString(saved.error().text()));
    else
        emit session_.message(tr("Saved"));
    for (const QString& file : writes) disk_.note(file);
    if (!path.isEmpty()) disk_.note(path);
    if (saved && !session_.files().file().isEmpty()) remember_file(session_.files().file());
}

bool Files::may_overwrite(const std::vector<QString>& files) {
    for (const QString& file : files) {
        if (!disk_.changed(file)) continue;
        const auto answer = QMessageBox::question(
            &window_, tr("Changed on disk"),
            tr("%1 was changed by another program. Overwrite what it wrote?").arg(QFileInfo(file).fileName()),
            QMessageBox::Save | QMessageBox::Cancel, QMessageBox::Cancel);
        if (answer != QMessageBox::Save) return false;
    }
    return true;
}

void Files::export_level() {
    const QString path = QFileDialog::getSaveFileName(
        &window_, tr("Export"),
        QString::fromStdString(session_.level().name + io::export_formats().front().ending),
        tr("Models (*%1)").arg(QString::fromStdString(io::export_endings(" *"))));
    if (path.isEmpty()) return;
    emit session_.message(tr("Exporting…"));
    exports_.start([this, path, project = session_.project(), level = session_.stored_level()] {
        const auto written = io::export_level(project, level, path.toStdString());
        const QString said =
            written ? tr("Exported to %1").arg(path) : QString::fromStdString(written.error().text());
        QMetaObject::invokeMethod(this, [this, said] { emit session_.message(said); });
    });
}

bool Files::may_lose_work() {
    if (session_.documents().saved()) return true;
    const auto answer = QMessageBox::question(&window_, tr("Not saved"), tr("Save the changes first?"),
                                              QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
    if (answer == QMessageBox::Save) save();
    return answer == QMessageBox::Discard || (answer == QMessageBox::Save && session_.documents().saved());
}

void Files::reload(const QString& path) {
    const auto reloaded = session_.files().reload(path);
    if (!reloaded)
        QMessageBox::warning(&window_, tr("Could not open"), QString::fromStdString(reloaded.error().text()));
}

void Files::changed_on_disk(const QString& path) {
    if (asking_) return; // whoever answers sees to the others afterwards
    asking_ = true;
    QMessageBox box(QMessageBox::Question, tr("Changed on disk"),
                    tr("%1 was changed by another program. Reload it, or keep what is open here?")
                        .arg(QFileInfo(path).fileName()),
                    QMessageBox::NoButton, &window_);
    auto* reloads = box.addButton(tr("Reload"), QMessageBox::AcceptRole);
    box.addButton(tr("Keep mine"), QMessageBox::RejectRole);
    auto* compare = box.addButton(tr("Compare"), QMessageBox::ActionRole);
    box.exec();
    if (box.clickedButton() == compare) {
        box.setText(box.text() + "\n\n" + difference_on_disk(path));
        box.removeButton(compare);
        box.exec();
    }
    disk_.note(path); // what is there now was seen, whatever the answer
    if (box.clickedButton() == reloads) reload(path);
    asking_ = false;
    for (const QString& other : session_.files().all())
        if (disk_.changed(other)) return changed_on_disk(other);
}

QString Files::difference_on_disk(const QString& path) {
    if (path.endsWith(QStringLiteral("project.json"))) {
        const auto theirs = io::load_project(QFileInfo(path).absolutePath().toStdString());
        return theirs ? difference_text(session_.project(), *theirs)
                      : QString::fromStdString(theirs.error().text());
    }
    const OpenLevel* mine = nullptr;
    for (const OpenLevel& open : session_.document().levels)
        if (QString::fromStdString(open.file) == path) mine = &open;
    const auto theirs = io::load_level(path.toStdString());
    if (!theirs) return QString::fromStdString(theirs.error().text());
    if (!mine) return {};
    const Diff diff = difference(*mine->level, *theirs);
    // What differs is shown in the view behind the question.
    std::vector<ItemId> here(diff.changed.begin(), diff.changed.end());
    here.insert(here.end(), diff.removed.begin(), diff.removed.end());
    session_.select(std::move(here));
    return difference_text(*mine->level, *theirs);
}

} // namespace rubble::app
