#pragma once

#include <QDateTime>
#include <QThreadPool>
#include <QTimer>

#include "session/project_files.h"

namespace rubble::app {

/// A copy of unsaved work, kept aside while somebody works and taken away when they save or close. What is
/// still there when the program starts is of a program that ended without saving. A copy is a folder of its
/// own: the project and the levels that differ from their files, and what they belong to.
class Recovery : public QObject {
    Q_OBJECT
public:
    /// `folder` is where the copies lie; it is made when the first one is written.
    Recovery(Documents& documents, QString folder, QObject* parent = nullptr);
    ~Recovery() override;

    /// The folder that belongs to the user's account.
    static QString usual_folder();

    /// A copy that was left behind.
    struct Copy {
        QString path; ///< of its folder
        QString name; ///< of the level that was shown
        QDateTime when;
    };
    /// Copies of programs that no longer run, the newest first. What was left of one that ended before it had
    /// written any is taken away.
    std::vector<Copy> left_behind() const;
    /// Makes the copy the newest step after what is in its files, as far as those are there still; the copy
    /// is taken away. On an error it stays.
    Result<void> restore(const Copy& copy);
    static void discard(const Copy& copy);

    /// How long after a change its copy is written.
    void set_delay(int seconds) { soon_.setInterval(seconds * 1000); }
    /// Writes the copy of what is not saved now, in the background.
    void write();

signals:
    void written();

private:
    QString own_path() const;
    void take_away();
    void follow();

    Documents& documents_;
    QString folder_;
    QTimer soon_;
    QThreadPool writer_; ///< of its own: waiting for it waits for nothing else
};

} // namespace rubble::app
