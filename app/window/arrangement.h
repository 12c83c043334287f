#pragma once

class QMainWindow;

namespace rubble::app {

/// Remembers how a window is arranged, its size and the places of its named splitters, for the next session.
void remember_arrangement(const QMainWindow& window);
void restore_arrangement(QMainWindow& window);

} // namespace rubble::app
