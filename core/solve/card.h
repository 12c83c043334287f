#pragma once

#include <optional>
#include <vector>

#include "solve/shortest.h"

namespace rubble::solve {

/// How hard a puzzle is, by what its shortest solution asks of whoever plays it.
struct Card {
    int decisions = 0;              ///< situations on it from which several moves lead on that ruin nothing
    int longest_without_choice = 0; ///< letters between two of those
    double shortest_ways = 0;       ///< solutions of as few letters and pushes, told apart by their moves
    std::vector<int> never_used;    ///< cells over which, on no way to a goal, anybody goes or a crate is
    std::vector<int> astray;  ///< cells that crates come to only in situations from which no goal is reached
    bool cells_known = false; ///< whether those were looked for
    /// With foes: the fewest letters among which one can choose the moment to go on, somewhere on the
    /// solution (1: it is that one letter), and the cell; nothing where the moment never matters.
    std::optional<int> narrowest;
    int narrowest_at = 0;
};

/// The card of a puzzle of which all states are known, along one of its shortest solutions.
Card card_of(const motion::CellPuzzle& puzzle, const StateGraph& graph, const std::vector<char>& good,
             const Way& way, const Cancel& cancel);

} // namespace rubble::solve
