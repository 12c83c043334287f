#pragma once

#include "base/result.h"
#include "session/session.h"

namespace rubble::app {

/// What is done with the levels of a project; each a step of the history, written when the project is saved.

/// A level comes so many places later in the order of play (earlier where negative).
void move_level(Session& session, size_t index, int by);
void rename_level(Session& session, size_t index, const QString& name);
/// A copy of a level right after it, which is shown.
void duplicate_level(Session& session, size_t index);
/// An empty level at the end, which is shown.
void add_level(Session& session, const QString& name, Frame frame);
/// The items that are selected go to the end of another level, which is shown.
void move_selection_to_level(Session& session, size_t index);
/// Makes a folder a project of what is open: its levels get files there, and all is written.
Result<void> make_project(Session& session, const QString& folder);

} // namespace rubble::app
