#pragma once

#include "tray/tray.h"
#include "window/page.h"

namespace rubble::app {

/// What the tray holds at each stage.
void fill_metrics(Page& page, Tray& tray);
/// The measures agreed on, and what of the levels is not as agreed.
void add_measures(Page& page, Tray& tray);
void fill_shapes(Page& page, Tray& tray);
/// The tiles that are painted with, in levels that have them.
void fill_tiles(Page& page, Tray& tray);
/// The pieces of kits that are placed.
void fill_pieces(Page& page, Tray& tray);
void fill_elements(Page& page, Tray& tray);
void fill_materials(Page& page, Tray& tray);
/// The props that are put into the level.
void fill_props(Page& page, Tray& tray);
/// The tools that belong to the stage.
void add_stage_tools(Page& page, Tray& tray);
void fill_check(Page& page, Tray& tray);
/// What was found, what of it is shown, and what is excused.
void add_findings(Page& page, Tray& tray);
void fill_hand_off(Page& page, Tray& tray);
void add_names(Page& page, Tray& tray);

} // namespace rubble::app
