#pragma once

#include <QThreadPool>
#include <QWidget>

#include "commands/disk_watch.h"
#include "session/session.h"

namespace rubble::app {

/// Opening, saving and exporting, with the questions that belong to them, over a window.
class Files : public QObject {
    Q_OBJECT
public:
    Files(Session& session, QWidget& window);
    /// Waits until what is being exported is written.
    ~Files() override;

    /// Asks what to do with what is not saved, and how the new level is seen where no frame is given.
    void start_new(std::optional<Frame> frame = {});
    void ask_and_open();
    /// Opens a file after asking about what is not saved.
    void ask_and_open(const QString& path);
    /// Opens what the path names; on an error says so and keeps what is open. False on an error.
    bool open(const QString& path);
    void save();
    void save_elsewhere();
    /// Asks for a picture and lays it under the level, across an axis (0 x, 1 y, 2 z) about a place.
    bool add_underlay(int axis, const Vec3& at);
    /// Asks for a path and writes the model in the background.
    void export_level();
    /// Asks what to do with changes that are not saved. False where the answer is to stay.
    bool may_lose_work();

private:
    void save_as(const QString& path);
    /// Asks what to do with what others wrote to the files that would be written. False: do not write.
    bool may_overwrite(const std::vector<QString>& files);
    void changed_on_disk(const QString& path);
    void reload(const QString& path);
    /// What differs between a changed file and the level that is open from it, in words.
    QString difference_on_disk(const QString& path);

    Session& session_;
    QWidget& window_;
    DiskWatch disk_;
    bool asking_ = false; ///< about a file that others changed
    QThreadPool exports_;
};

} // namespace rubble::app
