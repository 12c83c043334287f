#pragma once

#include "commands/disk_watch.h"
#include "session/session.h"

namespace rubble::app {

/// Notices when the picture of a sheet changes on disk, and brings it in again as it is cut: tiles keep their
/// numbers, and what is gone is told.
class SheetWatch : public QObject {
    Q_OBJECT
public:
    SheetWatch(Session& session, QObject* parent);

private:
    void follow_project();
    void bring_again(const QString& picture);
    QString picture_of(const TileSheet& sheet) const;

    Session& session_;
    DiskWatch disk_;
    std::vector<QString> watched_;
};

} // namespace rubble::app
