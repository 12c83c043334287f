#include "commands/kit_watch.h"

#include <set>

#include <QFileInfo>

#include "edit/kits.h"
#include "io/kit_bring_in.h"
#include "io/kit_file.h"
#include "io/project_file.h"

namespace rubble::app {

KitWatch::KitWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::levelChanged, this, &KitWatch::follow_project);
    connect(&session_, &Session::documentOpened, this, &KitWatch::follow_project);
    connect(&disk_, &DiskWatch::changedByOthers, this, &KitWatch::bring_again);
}

void KitWatch::follow_project() {
    const auto folder = io::files_folder(session_.document(), session_.files().file().toStdString());
    std::set<QString> files; // several pieces may be of one file
    for (const auto& kit : session_.project().kits)
        for (const auto& piece : kit->pieces)
            if (!piece->file.empty())
                files.insert(QString::fromStdString(io::model_path(*kit, *piece, folder).string()));
    std::vector<QString> now(files.begin(), files.end());
    if (now == watched_) return;
    watched_ = std::move(now);
    disk_.watch(watched_);
}

void KitWatch::bring_again(const QString& path) {
    disk_.note(path);
    const auto folder = io::files_folder(session_.document(), session_.files().file().toStdString());
    for (const auto& kit : session_.project().kits)
        for (const auto& piece : kit->pieces) {
            if (piece->file.empty() ||
                QString::fromStdString(io::model_path(*kit, *piece, folder).string()) != path)
                continue;
            auto again = io::with_file_again(*kit, piece->file, folder);
            if (!again) {
                emit session_.message(QString::fromStdString(again.error().text()));
                return;
            }
            session_.apply(edit::with_kit(session_.project(), std::move(again->kit)),
                           tr("Piece changed on disk"));
            const QString name = QFileInfo(path).fileName();
            emit session_.message(tr("%1 was changed on disk and brought in again").arg(name));
            QStringList unfit;
            for (const std::string& sentence : again->unfit) unfit << QString::fromStdString(sentence);
            if (!unfit.isEmpty()) emit doesNotFit(name, unfit);
            return;
        }
}

} // namespace rubble::app
