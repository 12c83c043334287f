#pragma once

#include <bit>
#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "solve/moves.h"

namespace rubble::solve {

/// Which cells the figure walks to freely, as a row of bits for each row of cells, and the moves from there.
/// Quicker than `MoveFinder`, which also knows how far each cell is.
class Region {
public:
    explicit Region(const motion::CellPuzzle& puzzle);

    /// Looks at a state: the region that its figure is in.
    void look_at(const motion::CellState& state);
    /// The first cell of the region that was looked at, which stands for all of them.
    uint16_t first_cell() const;
    /// The same of the region after a move of the state that was looked at; nothing where it has to be looked
    /// at anew.
    std::optional<uint16_t> first_cell_after(const Move& move) const;
    /// The moves from it; the next call makes them invalid. Their letters for walking are not counted.
    const std::vector<Move>& moves(const motion::CellState& state);

private:
    using Rows = std::vector<uint64_t>;

    bool has(int cell) const { return reached_[word_of(cell)] >> bit_of(cell) & 1; }
    size_t word_of(int cell) const {
        return size_t(cell / puzzle_.columns) * words_ + size_t(cell % puzzle_.columns) / 64;
    }
    int bit_of(int cell) const { return (cell % puzzle_.columns) % 64; }
    void spread(size_t word, uint64_t bits);
    bool is_free(int cell) const { return cell >= 0 && free_[word_of(cell)] >> bit_of(cell) & 1; }
    bool parts(int cell, int opened) const;

    const motion::CellPuzzle& puzzle_;
    MoveFinder finder_;
    const size_t words_; ///< of a row
    Rows always_free_;   ///< cells that are walked over freely whenever no crate is there
    Rows free_, reached_;
    std::vector<std::pair<size_t, uint64_t>> open_; ///< words from whose bits more may be reached
    std::vector<int> sometimes_;                    ///< other cells that may be walked over freely
    std::vector<int> eventful_;                     ///< cells where something may happen to who comes there
    bool alone_ = false;
};

} // namespace rubble::solve
