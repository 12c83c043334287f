#pragma once

#include "tools/tool.h"

namespace rubble::app {

// Cuts are hollow: where they are, the pointer meets what lies behind them. They are caught nonetheless.

/// How far along the pointer's ray it enters a brush's own box; nothing where it misses it.
std::optional<double> entry_into(const Ray& ray, const Brush& brush);

/// The cut that is meant: a selected one into whose hollow the pointer looks, or one whose outline is near
/// the pointer and not behind what that meets.
std::optional<ItemId> cut_under(const Session& session, const Pointer& pointer);

} // namespace rubble::app
