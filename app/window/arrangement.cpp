#include "window/arrangement.h"

#include <QFileInfo>
#include <QMainWindow>
#include <QSettings>
#include <QSplitter>

#include "session/session.h"

namespace rubble::app {

namespace {

QString splitter_setting(const QSplitter& splitter) {
    return QStringLiteral("window/") + splitter.objectName();
}

/// The switches by their names in the settings.
constexpr std::pair<const char*, bool Snapping::*> k_switches[] = {{"snap/grid", &Snapping::grid},
                                                                   {"snap/edges", &Snapping::edges},
                                                                   {"snap/corners", &Snapping::corners},
                                                                   {"snap/turn", &Snapping::turn}};

} // namespace

void remember_arrangement(const QMainWindow& window) {
    QSettings settings;
    settings.setValue(QStringLiteral("window/geometry"), window.saveGeometry());
    for (const QSplitter* splitter : window.findChildren<QSplitter*>())
        if (!splitter->objectName().isEmpty())
            settings.setValue(splitter_setting(*splitter), splitter->saveState());
}

void restore_arrangement(QMainWindow& window) {
    const QSettings settings;
    window.restoreGeometry(settings.value(QStringLiteral("window/geometry")).toByteArray());
    for (QSplitter* splitter : window.findChildren<QSplitter*>())
        if (!splitter->objectName().isEmpty())
            splitter->restoreState(settings.value(splitter_setting(*splitter)).toByteArray());
}

void remember_snapping(const Snapping& snapping) {
    QSettings settings;
    for (const auto& [name, kind] : k_switches) settings.setValue(QLatin1String(name), snapping.*kind);
}

Snapping remembered_snapping() {
    const QSettings settings;
    Snapping snapping;
    for (const auto& [name, kind] : k_switches)
        snapping.*kind = settings.value(QLatin1String(name), true).toBool();
    return snapping;
}

void remember_file(const QString& path) {
    constexpr int k_most = 10;
    QStringList files = recent_files();
    const QString whole = QFileInfo(path).absoluteFilePath();
    files.removeAll(whole);
    files.prepend(whole);
    QSettings().setValue(QStringLiteral("files/recent"), QStringList(files.mid(0, k_most)));
}

QStringList recent_files() {
    QStringList files = QSettings().value(QStringLiteral("files/recent")).toStringList();
    files.removeIf([](const QString& path) { return !QFileInfo::exists(path); });
    return files;
}

} // namespace rubble::app
