#pragma once

#include "commands/disk_watch.h"
#include "session/session.h"

namespace rubble::app {

/// Notices when the model of a piece changes on disk, and brings it in again: pieces keep their identity,
/// their places and their settings, and what no longer fits is told.
class KitWatch : public QObject {
    Q_OBJECT
public:
    KitWatch(Session& session, QObject* parent);

signals:
    /// What no longer fits of a file that was brought in again, a sentence each.
    void doesNotFit(const QString& file, const QStringList& what);

private:
    void follow_project();
    void bring_again(const QString& path);

    Session& session_;
    DiskWatch disk_;
    std::vector<QString> watched_;
};

} // namespace rubble::app
