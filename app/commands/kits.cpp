#include "commands/kits.h"

#include <atomic>
#include <filesystem>
#include <memory>
#include <mutex>

#include <QDir>
#include <QDirIterator>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QProgressDialog>
#include <QThread>
#include <QThreadPool>

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

/// Models read beside the window, which stays alive; none where it was cancelled.
std::vector<Result<Model>> read_models(const QStringList& paths, QWidget& window) {
    struct Reading {
        std::mutex mutex;
        std::vector<Result<Model>> models;
        std::atomic<bool> stop = false;
        std::atomic<int> done = 0;
    };
    const auto reading = std::make_shared<Reading>();
    QThreadPool::globalInstance()->start([reading, paths] {
        for (const QString& path : paths) {
            if (reading->stop) return;
            auto model = io::load_model(path.toStdString());
            const std::lock_guard lock(reading->mutex);
            reading->models.push_back(std::move(model));
            ++reading->done;
        }
    });
    constexpr int k_silent_ms = 400;
    QProgressDialog progress(Session::tr("Reading models"), Session::tr("Cancel"), 0, int(paths.size()),
                             &window);
    progress.setWindowModality(Qt::WindowModal);
    progress.setMinimumDuration(k_silent_ms);
    while (reading->done < paths.size()) {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
        QThread::msleep(2);
        progress.setValue(reading->done);
        if (!progress.wasCanceled()) continue;
        reading->stop = true;
        return {};
    }
    progress.reset();
    return std::move(reading->models);
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
    const QStringList named = models_of(paths);
    std::vector<Result<Model>> models = read_models(named, window);
    for (size_t i = 0; i < models.size(); ++i) {
        if (models[i])
            files.push_back(build::brought(named[int(i)].toStdString(), std::move(*models[i])));
        else
            refused << QString::fromStdString(models[i].error().text());
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
