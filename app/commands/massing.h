#pragma once

#include "session/session.h"

namespace rubble::app {

/// Changes of the selected mass by the area that is marked on it. Each is one step of the history and says
/// where it could not be done.

/// Outward as one sees it: a mass that is a cut is seen from inside.
int grid_steps(const Brush& mass, int seen);

/// The level with the selected mass's cells changed.
Level with_cells(const Level& level, const ItemId& id, const MassGrid& cells);

void raise_area(Session& session, int by);
void tilt_area(Session& session, const edit::AreaEdge& edge, int by);
void smooth_area(Session& session);
void dig_area(Session& session);
/// Marks all squares in one piece with those marked that are of their level or slope.
void mark_alike(Session& session);
/// Marks all squares of the highest level that the selected mass has, in one piece.
void mark_top(Session& session);
void finer_cells(Session& session);
/// Says first what would be lost, and does it when asked again.
void coarser_cells(Session& session);
void mass_to_brushes(Session& session);

} // namespace rubble::app
