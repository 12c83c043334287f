#include "commands/kits.h"

#include <filesystem>

#include <QDir>
#include <QDirIterator>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include "build/bring_in.h"
#include "edit/kits.h"
#include "io/kit_bring_in.h"
#include "io/kit_file.h"
#include "io/model_file.h"
#include "io/project_file.h"
#include "kits/bring_in_dialog.h"

namespace rubble::app {

namespace {

/// Models that some paths name, those in folders too, in order.
QStringList models_of(const QStringList& paths) {
    QStringList out;
    for (const QString& path : paths) {
        if (!QFileInfo(path).isDir()) {
            out << path;
            continue;
        }
        for (const QFileInfo& file : QDir(path).entryInfoList(QDir::Files, QDir::Name))
            if (is_model(file.filePath())) out << file.filePath();
    }
    return out;
}

/// Where kits are named from; nothing while the document has no place of its own.
std::optional<QString> kits_root(const Session& session) {
    if (!session.document().folder.empty()) return QString::fromStdString(session.document().folder);
    if (!session.files().file().isEmpty()) return QFileInfo(session.files().file()).absolutePath();
    return {};
}

/// Where a document without a place of its own keeps its kit: asked for.
std::optional<QString> place_for_kit(QWidget& window) {
    const QString folder = QFileDialog::getExistingDirectory(&window, Session::tr("Keep the kit in"));
    return folder.isEmpty() ? std::nullopt : std::optional(folder);
}

} // namespace

bool is_model(const QString& path) { return io::is_model_file(path.toStdString()); }

bool bring_in_pieces(Session& session, QWidget& window, QStringList paths) {
    if (paths.isEmpty())
        paths = QFileDialog::getOpenFileNames(&window, Session::tr("Bring pieces in"), {},
                                              Session::tr("Models (*.glb *.gltf *.obj)"));
    std::vector<build::BroughtPiece> files;
    QStringList refused;
    for (const QString& path : models_of(paths)) {
        auto model = io::load_model(path.toStdString());
        if (model)
            files.push_back(build::brought(path.toStdString(), std::move(*model)));
        else
            refused << QString::fromStdString(model.error().text());
    }
    if (!refused.isEmpty())
        QMessageBox::warning(&window, Session::tr("Could not bring them in"), refused.join('\n'));
    if (files.empty()) return false;
    BringInDialog dialog(session, std::move(files), &window);
    if (dialog.exec() != QDialog::Accepted || dialog.pieces().empty()) return false;
    auto root = kits_root(session);
    const bool alone = !root;
    if (alone) root = place_for_kit(window);
    if (!root) return false;
    Kit kit;
    if (const auto known = find_kit(session.project(), dialog.kit_file())) {
        kit = *known;
    } else {
        kit.name = dialog.kit_name().toStdString();
        kit.file = "kits/" + build::piece_id_from(kit.name) + "/kit.json";
        if (alone) kit.file = (root->toStdString() + "/" + kit.file);
    }
    kit.module_m = dialog.module_m();
    auto with = io::brought_into(std::move(kit), dialog.pieces(), root->toStdString());
    if (!with) {
        QMessageBox::warning(&window, Session::tr("Could not bring them in"),
                             QString::fromStdString(with.error().text()));
        return false;
    }
    const std::string file = with->file;
    session.apply(edit::with_kit(session.project(), std::move(*with)), Session::tr("Bring pieces in"));
    session.looking().set_piece(file, {});
    return true;
}

} // namespace rubble::app
