#pragma once

#include <QStringList>

class QMainWindow;

namespace rubble::app {

struct Snapping;

/// Remembers how a window is arranged, its size and the places of its named splitters, for the next session.
void remember_arrangement(const QMainWindow& window);
void restore_arrangement(QMainWindow& window);

/// The same for what is snapped to.
void remember_snapping(const Snapping& snapping);
Snapping remembered_snapping();

/// Files that were opened or saved, the last one first; those that are gone are left out.
void remember_file(const QString& path);
QStringList recent_files();

} // namespace rubble::app
