#include "commands/beginnings.h"

#include <QCheckBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QListWidget>
#include <QVBoxLayout>

#include "edit/project.h"
#include "io/project_file.h"
#include "study/beginnings.h"

namespace rubble::app {

namespace {

/// What of a level is kept: its layers, each with what it holds.
std::optional<study::Keeping> ask_keeping(const Level& other, QWidget& window) {
    QDialog dialog(&window);
    dialog.setWindowTitle(Session::tr("Begin from another level"));
    auto* column = new QVBoxLayout(&dialog);
    auto* about =
        new QLabel(Session::tr("Only walls are taken: brushes and solid tiles of these layers, bare, "
                               "without elements and claims."));
    about->setWordWrap(true);
    column->addWidget(about);
    auto* layers = new QListWidget;
    layers->setAccessibleName(Session::tr("Layers"));
    for (const auto& layer : other.layers) {
        const bool walls = (layer->tiles && (*layer->tiles)->solid) || !layer->items.empty();
        auto* row = new QListWidgetItem(QString::fromStdString(layer->name), layers);
        row->setData(Qt::UserRole, QString::fromStdString(layer->id.value));
        row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
        row->setCheckState(walls ? Qt::Checked : Qt::Unchecked);
    }
    column->addWidget(layers, 1);
    auto* pieces = new QCheckBox(Session::tr("Pieces of kits too"));
    pieces->setAccessibleName(pieces->text());
    column->addWidget(pieces);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    column->addWidget(buttons);
    QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    if (dialog.exec() != QDialog::Accepted) return {};
    study::Keeping keeping;
    keeping.pieces = pieces->isChecked();
    for (int row = 0; row < layers->count(); ++row)
        if (layers->item(row)->checkState() == Qt::Checked)
            keeping.layers.insert({layers->item(row)->data(Qt::UserRole).toString().toStdString()});
    return keeping;
}

} // namespace

bool begin_from_level(Session& session, QWidget& window, QString path) {
    if (path.isEmpty())
        path = QFileDialog::getOpenFileName(&window, Session::tr("Begin from another level"),
                                            QFileInfo(session.files().file()).path(),
                                            Session::tr("Levels (*.level.json);;All files (*)"));
    if (path.isEmpty()) return false;
    const auto other = io::load_level_with_project(path.toStdString());
    if (!other) {
        session.documents().show_message(QString::fromStdString(other.error().text()));
        return false;
    }
    const auto keeping = ask_keeping(other->level, window);
    if (!keeping) return false;
    Level level = study::begun_from(other->level, QFileInfo(path).absoluteFilePath().toStdString(), *keeping);
    if (level.layers.empty()) {
        session.documents().show_message(Session::tr("Nothing of it would be kept"));
        return false;
    }
    session.files().start_new(level.frame);
    session.apply(other->project, Session::tr("Begin from another level"));
    session.apply(with_files_of(other->project, std::move(level)), Session::tr("Begin from another level"));
    return true;
}

} // namespace rubble::app
