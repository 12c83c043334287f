#pragma once

#include <optional>
#include <vector>

#include "base/cancel.h"
#include "solve/moves.h"
#include "solve/state_table.h"

namespace rubble::solve {

/// All that play can come to. A *situation* is all that counts but where the figure stands among cells that
/// it walks over freely: its moves are found once. A *state* is a situation with the cell in which the figure
/// came into it, so that letters can be counted.
class StateGraph {
public:
    struct Move {
        uint32_t after; ///< a state
        uint16_t from;  ///< the figure's cell when the last letter is played
        int8_t crate;   ///< that is pushed; -1: none is
        motion::Letter letter;
    };

    /// Goes through at most so many situations.
    StateGraph(const motion::CellPuzzle& puzzle, size_t most, const Cancel& cancel, const Progress& progress);

    /// Whether all was seen. Else nothing but how many situations were is known.
    bool complete() const { return complete_; }
    size_t situations() const { return table_.size(); }
    size_t states() const { return cells_.size(); }
    /// Where play begins.
    uint32_t start() const { return start_; }
    motion::CellState state(uint32_t state) const {
        motion::CellState out = table_.at(situation_of_[state]);
        out.figure = cells_[state];
        return out;
    }
    /// The figure's cell in a state.
    uint16_t cell_of(uint32_t state) const { return cells_[state]; }
    uint32_t situation_of(uint32_t state) const { return situation_of_[state]; }
    /// Whether the figure stands on a goal, and play ends.
    bool is_goal(uint32_t situation) const { return goal_[situation]; }
    /// The moves of a situation. @{
    const Move* begin(uint32_t situation) const { return moves_.data() + moves_begin_[situation]; }
    const Move* end(uint32_t situation) const { return moves_.data() + moves_begin_[situation + 1]; }
    /// @}
    /// The situations from which one of some is come to.
    std::vector<char> leading_to(std::vector<char> situations) const;

private:
    bool go_through(const motion::CellPuzzle& puzzle, size_t most, const Cancel& cancel,
                    const Progress& progress);
    void number_states(uint16_t first_cell);

    StateTable table_;                   ///< of situations
    std::vector<Move> moves_;            ///< while they are found `after` is a situation
    std::vector<uint16_t> landings_;     ///< of the moves: the figure's cell then
    std::vector<size_t> moves_begin_;    ///< by situations, and the end
    std::vector<char> goal_;             ///< by situations
    std::vector<uint16_t> cells_;        ///< by states
    std::vector<uint32_t> situation_of_; ///< by states
    uint32_t start_ = 0;
    bool complete_ = false;
};

} // namespace rubble::solve
