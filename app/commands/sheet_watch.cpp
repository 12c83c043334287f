#include "commands/sheet_watch.h"

#include <QFileInfo>

#include "commands/sheets.h"
#include "edit/tiles.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "io/sheet_file.h"

namespace rubble::app {

SheetWatch::SheetWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::levelChanged, this, &SheetWatch::follow_project);
    connect(&session_, &Session::documentOpened, this, &SheetWatch::follow_project);
    connect(&disk_, &DiskWatch::changedByOthers, this, &SheetWatch::bring_again);
}

QString SheetWatch::picture_of(const TileSheet& sheet) const {
    const auto folder = io::files_folder(session_.document(), session_.files().file().toStdString());
    return QString::fromStdString(io::picture_path(sheet, folder).string());
}

void SheetWatch::follow_project() {
    std::vector<QString> files;
    for (const auto& sheet : session_.project().sheets) files.push_back(picture_of(*sheet));
    if (files == watched_) return;
    watched_ = std::move(files);
    disk_.watch(watched_);
}

void SheetWatch::bring_again(const QString& file) {
    disk_.note(file);
    for (const auto& sheet : session_.project().sheets) {
        if (picture_of(*sheet) != file) continue;
        auto picture = io::load_picture(file.toStdString());
        if (!picture) {
            emit session_.message(QString::fromStdString(picture.error().text()));
            return;
        }
        const auto again = brought_again(*sheet, std::make_shared<const Picture>(std::move(*picture)));
        session_.apply(edit::with_sheet(session_.project(), again.sheet), tr("Sheet changed on disk"));
        const QString name = QFileInfo(file).fileName();
        emit session_.message(
            again.lost.empty()
                ? tr("%1 was changed on disk and brought in again").arg(name)
                : tr("%1 was changed on disk: %2 of its tiles are not on it any more, and are kept "
                     "where they are painted")
                      .arg(name)
                      .arg(again.lost.size()));
        return;
    }
}

} // namespace rubble::app
