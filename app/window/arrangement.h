#pragma once

class QMainWindow;

namespace rubble::app {

struct Snapping;

/// Remembers how a window is arranged, its size and the places of its named splitters, for the next session.
void remember_arrangement(const QMainWindow& window);
void restore_arrangement(QMainWindow& window);

/// The same for what is snapped to.
void remember_snapping(const Snapping& snapping);
Snapping remembered_snapping();

} // namespace rubble::app
