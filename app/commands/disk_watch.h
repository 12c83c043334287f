#pragma once

#include <map>
#include <optional>

#include <QByteArray>
#include <QFileSystemWatcher>
#include <QString>

namespace rubble::app {

/// Knows what some files held when they were last read or written here, so that what others write is noticed,
/// and what is written here is not taken for theirs.
class DiskWatch : public QObject {
    Q_OBJECT
public:
    explicit DiskWatch(QObject* parent = nullptr);

    /// These files and no others, as they are now.
    void watch(const std::vector<QString>& files);
    /// What a file holds now is known: it was read or written, or somebody chose to pass over it.
    void note(const QString& file);
    /// Whether a file holds something else than was known. One that is gone, or was never there, does not.
    bool changed(const QString& file) const;

signals:
    void changedByOthers(const QString& file);

private:
    void look_at(const QString& file);

    QFileSystemWatcher watcher_;
    std::map<QString, std::optional<QByteArray>> known_; ///< hashes; none where there was no file
};

} // namespace rubble::app
