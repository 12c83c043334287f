#pragma once

#include "check/bands.h"
#include "check/sentences.h"
#include "motion/cells/puzzle.h"

namespace rubble::check {

class ReachQueries;

/// What has to be open, or had, for somebody to get from a place to another, where elements act freely and
/// all that is to be had does not do: which doors and hazards are in the way, what they need, and whether
/// that lies behind them itself. Nothing where matter keeps one away.
std::optional<Sentences> missing_items(ReachQueries& queries, const Level& level, const Bands& bands,
                                       const Vec3& from, const ItemId& to, const Vec3& to_at);

/// The same where one goes from cell to cell.
std::optional<Sentences> missing_items_by_cells(const motion::CellPuzzle& puzzle, int from, const ItemId& to,
                                                int cell);

} // namespace rubble::check
