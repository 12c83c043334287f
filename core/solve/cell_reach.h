#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "solve/moves.h"
#include "solve/state_table.h"

namespace rubble::solve {

/// Which cells the figure comes to from a state on, and by which letters, the fewest for each. A goal does
/// not end the search.
class CellReach {
public:
    /// Goes through at most so many states.
    CellReach(const motion::CellPuzzle& puzzle, const motion::CellState& start, size_t most_states,
              const Cancel& cancel = {});

    /// Whether it saw all states.
    bool complete() const { return complete_; }
    /// Whether one comes to a cell.
    bool reached(int cell) const { return cells_[size_t(cell)].node != k_none; }
    /// How many things have to be taken, pressed or opened before one comes to a cell, the fewest; -1 where
    /// one does not come there.
    int events_before(int cell) const { return reached(cell) ? events_[size_t(cell)] : -1; }
    /// The letters to a cell that one comes to.
    std::string letters_to(int cell);

private:
    static constexpr uint32_t k_none = uint32_t(-1);
    struct Node {
        uint32_t steps = k_none, parent = k_none;
        uint16_t from = 0;
        motion::Letter letter = motion::Letter::wait;
    };
    /// How one first comes to a cell: from a state, by walking.
    struct Way {
        uint32_t node = k_none, steps = k_none;
    };

    const motion::CellPuzzle& puzzle_;
    StateTable table_;
    MoveFinder finder_;
    std::vector<Node> nodes_;
    std::vector<Way> cells_;
    std::vector<int> events_; ///< by cells
    bool complete_ = false;
};

} // namespace rubble::solve
