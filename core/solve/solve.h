#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "motion/cells/letter.h"
#include "solve/card.h"

namespace rubble::solve {

/// A push or step after which the goal cannot be reached any more.
struct Ruin {
    int from = 0;   ///< the figure's cell before
    int crate = -1; ///< that is pushed; -1: none is
    motion::Letter letter = motion::Letter::wait;
    /// Letters until no crate can be pushed any more, the fewest; nothing where some always can.
    std::optional<int> noticed_after;
    bool operator==(const Ruin&) const = default;
};

/// All that is known about a puzzle.
struct Answer {
    std::optional<bool> solvable; ///< nothing: undecided
    std::string letters;          ///< a solution of the fewest letters, and of those of the fewest pushes
    int pushes = 0;
    bool too_late = false; ///< the shortest way takes more steps than the level allows
    size_t states = 0;     ///< that were seen
    bool complete = false; ///< all states were seen: the ruins are all there are
    std::vector<Ruin> ruins;
    double ruined_share = 0;  ///< of the states that were seen
    std::optional<Card> card; ///< of a puzzle of which all states are known

    int steps() const { return int(letters.size()); }
};

struct SolveOptions {
    size_t most_states = 4'000'000;
    Cancel cancel;
    Progress progress;
    /// Called as soon as a solution is known, with an answer that has no more than that.
    std::function<void(const Answer&)> on_solution = {};
};

/// Solves a puzzle exactly: goes through its states, finds from which of them a goal is reached by going
/// backwards, and the shortest way through those. Where there are too many states, only a way is looked for.
Answer solved(const motion::CellPuzzle& puzzle, const SolveOptions& options = {});

} // namespace rubble::solve
