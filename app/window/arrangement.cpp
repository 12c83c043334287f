#include "window/arrangement.h"

#include <QMainWindow>
#include <QSettings>
#include <QSplitter>

namespace rubble::app {

namespace {

QString setting_of(const QSplitter& splitter) { return QStringLiteral("window/") + splitter.objectName(); }

} // namespace

void remember_arrangement(const QMainWindow& window) {
    QSettings settings;
    settings.setValue(QStringLiteral("window/geometry"), window.saveGeometry());
    for (const QSplitter* splitter : window.findChildren<QSplitter*>())
        if (!splitter->objectName().isEmpty())
            settings.setValue(setting_of(*splitter), splitter->saveState());
}

void restore_arrangement(QMainWindow& window) {
    const QSettings settings;
    window.restoreGeometry(settings.value(QStringLiteral("window/geometry")).toByteArray());
    for (QSplitter* splitter : window.findChildren<QSplitter*>())
        if (!splitter->objectName().isEmpty())
            splitter->restoreState(settings.value(setting_of(*splitter)).toByteArray());
}

} // namespace rubble::app
