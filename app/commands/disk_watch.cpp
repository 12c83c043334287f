#include "commands/disk_watch.h"

#include <QCryptographicHash>
#include <QFile>
#include <QFileInfo>
#include <QTimer>

namespace rubble::app {

namespace {

/// A program that writes in pieces, or replaces a file in two steps, has done so by then.
constexpr int k_settled_ms = 150;

std::optional<QByteArray> hash_of(const QString& path) {
    QFile file(path);
    if (!QFileInfo(path).isFile() || !file.open(QIODevice::ReadOnly)) return {};
    QCryptographicHash hash(QCryptographicHash::Sha1);
    return hash.addData(&file) ? std::optional(hash.result()) : std::nullopt;
}

} // namespace

DiskWatch::DiskWatch(QObject* parent) : QObject(parent) {
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this](const QString& file) {
        QTimer::singleShot(k_settled_ms, this, [this, file] { look_at(file); });
    });
}

void DiskWatch::watch(const std::vector<QString>& files) {
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    known_.clear();
    for (const QString& file : files) note(file);
}

void DiskWatch::note(const QString& file) {
    known_[file] = hash_of(file);
    // A file that was replaced, as saving does, is another one for the watcher.
    if (QFileInfo::exists(file)) watcher_.removePath(file), watcher_.addPath(file);
}

bool DiskWatch::changed(const QString& file) const {
    const auto known = known_.find(file);
    if (known == known_.end()) return false;
    const auto now = hash_of(file);
    return now && now != known->second;
}

void DiskWatch::look_at(const QString& file) {
    if (!known_.contains(file)) return;
    if (QFileInfo::exists(file)) watcher_.addPath(file);
    if (changed(file)) emit changedByOthers(file);
}

} // namespace rubble::app
