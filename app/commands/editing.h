#pragma once

#include "session/session.h"

namespace rubble::app {

/// Commands on what is selected. Each is one step of the history; without a selection they do nothing.
void copy_selection(Session& session);
void cut_selection(Session& session);
/// Puts what is on the clipboard down with the middle of its base at `place`, on the grid in plan.
void paste_at(Session& session, const Vec3& place);
void duplicate_selection(Session& session);
/// Copies that share their originals' shapes, and copies made independent of each other again.
void duplicate_linked(Session& session);
/// The others become linked copies of the item that was selected first.
void link_selection(Session& session);
void unlink_selection(Session& session);
void select_linked(Session& session);
void delete_selection(Session& session);
void group_selection(Session& session);
void ungroup_selection(Session& session);
/// One place later or earlier in the order in which fills and cuts act.
void move_in_order(Session& session, bool later);
void select_all(Session& session);
/// By whole grid steps.
void nudge_selection(Session& session, const Vec3& steps);
/// Makes the grid's step finer or coarser by a factor, from 1/16 to 8 m.
void scale_grid(Session& session, double by);
/// A note at a place, in the chosen layer.
void drop_note(Session& session, const Vec3& at);

} // namespace rubble::app
