#pragma once

#include <vector>

#include "motion/cells/letter.h"

namespace rubble::solve {

/// What can be done next that changes more than where the figure stands: it walks to a cell and plays a
/// letter there.
struct Move {
    motion::CellState after;
    int steps = 0; ///< letters, the walk and the last one
    int from = 0;  ///< the cell in which the last letter is played
    motion::Letter letter = motion::Letter::wait;
    int pushed = -1; ///< the crate
    bool quiet =
        false; ///< nothing changed but where the figure and the crate are, on floor where nothing happens
};

/// Finds the moves of states of one puzzle. Cells that nothing happens in are walked over freely, at once,
/// where time does not count.
class MoveFinder {
public:
    explicit MoveFinder(const motion::CellPuzzle& puzzle);

    /// All moves of a state; the next call makes them invalid.
    const std::vector<Move>& moves(const motion::CellState& state) {
        walk_from(state);
        return moves_from(state);
    }
    /// Finds where the figure walks to freely.
    void walk_from(const motion::CellState& state) {
        note_crates(state);
        flood(state);
    }
    /// The moves of the state that was walked from last.
    const std::vector<Move>& moves_from(const motion::CellState& state);
    /// The letters from where the figure stands to another cell that it walks to freely.
    std::string walk(const motion::CellState& state, int to);

    /// After `walk_from` or `moves`: the cells that the figure walks to freely, nearest first, and in how
    /// many letters.
    const std::vector<int>& walked() const { return queue_; }
    int distance(int cell) const { return distance_[size_t(cell)]; }

    // The parts of it. @{
    /// Nothing happens in a cell but to things and doors.
    bool is_plain(int cell) const { return plain_[size_t(cell)]; }
    /// Nothing at all happens in a cell.
    bool is_quiet(int cell) const { return quiet_[size_t(cell)]; }
    /// The next cell; -1 where the level ends or a wall is.
    int beside(int cell, int direction) const { return beside_[size_t(cell) * 4 + size_t(direction)]; }
    /// Where the figure stands something happens, or time counts: it does not walk on freely.
    bool stands_alone(const motion::CellState& state) const { return timed_ || !plain_[state.figure]; }
    void note_crates(const motion::CellState& state);
    const std::vector<int>& crate_cells() const { return crate_cells_; }
    bool has_crate(int cell) const { return crate_[size_t(cell)] != 0; }
    bool walked_freely(const motion::CellState& state, int cell) const;
    void begin_moves() { moves_.clear(); }
    /// Adds what a letter does from a cell, where it does something.
    void try_move(const motion::CellState& state, int from, motion::Letter letter);
    void try_waiting(const motion::CellState& state);
    const std::vector<Move>& found() const { return moves_; }
    /// @}

private:
    /// A push over floor where nothing else happens; false where the rules have to be asked.
    bool push_quietly(const motion::CellState& state, int from, int direction, int crate_cell);
    /// Fills `distance_` from the figure on; the cells in order are in `queue_`.
    void flood(const motion::CellState& state);
    void play(const motion::CellState& state, int from, int walked, motion::Letter letter);

    const motion::CellPuzzle& puzzle_;
    const bool timed_;
    const bool simple_; ///< crates are of one cell, and nothing moves by itself
    std::vector<int>
        beside_; ///< by cells and directions: the next cell; -1 where the level ends or a wall is
    std::vector<char> plain_; ///< by cells: nothing happens there but to things and doors
    std::vector<char> quiet_; ///< by cells: nothing at all happens there, to crates neither
    std::vector<int> distance_, queue_;
    std::vector<int8_t> crate_; ///< by cells: which crate and 1; 0 where none is
    std::vector<int> crate_cells_;
    std::vector<Move> moves_;
};

} // namespace rubble::solve
