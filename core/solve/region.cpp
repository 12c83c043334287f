#include "solve/region.h"

#include <algorithm>

namespace rubble::solve {

using motion::CellPuzzle;
using motion::CellState;
using motion::Letter;

Region::Region(const CellPuzzle& puzzle)
    : puzzle_(puzzle),
      finder_(puzzle),
      words_((size_t(puzzle.columns) + 63) / 64),
      always_free_(words_ * size_t(puzzle.rows), 0) {
    for (int cell = 0; cell < puzzle.cells(); ++cell) {
        if (puzzle.floor_of(cell).wall) continue;
        if (finder_.is_quiet(cell)) {
            always_free_[word_of(cell)] |= uint64_t(1) << bit_of(cell);
            continue;
        }
        eventful_.push_back(cell);
        if (finder_.is_plain(cell)) sometimes_.push_back(cell);
    }
}

/// Spreads from bits of a word over all that is free, a run of cells at a time.
void Region::spread(size_t word, uint64_t bits) {
    open_.assign(1, {word, bits});
    const auto go_on = [&](size_t to, uint64_t more) {
        more &= free_[to] & ~reached_[to];
        if (more != 0) open_.push_back({to, more});
    };
    while (!open_.empty()) {
        const auto [at, begin] = open_.back();
        open_.pop_back();
        const uint64_t free = free_[at];
        // To both sides within runs of free cells: a carry runs up, halving steps run down.
        uint64_t now = begin | (free & ~(free + begin)), run = free;
        for (const int step : {1, 2, 4, 8, 16, 32}) now |= run & (now >> step), run &= run >> step;
        now &= ~reached_[at];
        if (now == 0) continue;
        reached_[at] |= now;
        if (at >= words_) go_on(at - words_, now);
        if (at + words_ < free_.size()) go_on(at + words_, now);
        if (words_ == 1) continue;
        if (at % words_ > 0) go_on(at - 1, now << 63);
        if (at % words_ + 1 < words_) go_on(at + 1, now >> 63);
    }
}

void Region::look_at(const CellState& state) {
    finder_.note_crates(state);
    alone_ = finder_.stands_alone(state);
    reached_.assign(always_free_.size(), 0);
    if (alone_) {
        reached_[word_of(state.figure)] |= uint64_t(1) << bit_of(state.figure);
        return;
    }
    free_ = always_free_;
    for (const int cell : sometimes_)
        if (finder_.walked_freely(state, cell)) free_[word_of(cell)] |= uint64_t(1) << bit_of(cell);
    for (const int cell : finder_.crate_cells()) free_[word_of(cell)] &= ~(uint64_t(1) << bit_of(cell));
    free_[word_of(state.figure)] |= uint64_t(1) << bit_of(state.figure);
    spread(word_of(state.figure), uint64_t(1) << bit_of(state.figure));
}

uint16_t Region::first_cell() const {
    for (size_t at = 0; at < reached_.size(); ++at)
        if (reached_[at] != 0)
            return uint16_t(int(at / words_) * puzzle_.columns + int(at % words_) * 64 +
                            std::countr_zero(reached_[at]));
    return 0;
}

/// Whether free cells around one would not hang together any more, as far as they touch it, without it;
/// `opened` is free by then.
bool Region::parts(int cell, int opened) const {
    // The eight cells around, in order; those at even places touch it.
    int around[8];
    for (int direction = 0; direction < 4; ++direction) {
        const int beside = finder_.beside(cell, direction);
        around[2 * direction] = beside;
        around[2 * direction + 1] = beside < 0 ? -1 : finder_.beside(beside, (direction + 1) % 4);
        if (around[2 * direction + 1] < 0) { // the other way round the corner
            const int other = finder_.beside(cell, (direction + 1) % 4);
            if (other >= 0) around[2 * direction + 1] = finder_.beside(other, direction);
        }
    }
    const auto free = [&](int k) { return around[k & 7] == opened || is_free(around[k & 7]); };
    int stretches = 0;
    for (int k = 0; k < 8; k += 2) // one for each that touches and is not joined with the next that does
        if (free(k) && !(free(k + 1) && free(k + 2))) ++stretches;
    return stretches > 1;
}

std::optional<uint16_t> Region::first_cell_after(const Move& move) const {
    if (!move.quiet || alone_) return {};
    const int opened = move.after.figure, closed = move.after.crates[size_t(move.pushed)];
    // What lies beside the opened cell must have been reached already.
    for (int direction = 0; direction < 4; ++direction) {
        const int beside = finder_.beside(opened, direction);
        if (beside >= 0 && beside != closed && is_free(beside) && !has(beside)) return {};
    }
    if (has(closed) && parts(closed, opened)) return {};
    const int first = first_cell();
    if (first != closed) return uint16_t(std::min(first, opened));
    for (int cell = closed + 1; cell < opened; ++cell)
        if (has(cell)) return uint16_t(cell);
    return uint16_t(opened);
}

const std::vector<Move>& Region::moves(const CellState& state) {
    finder_.begin_moves();
    if (alone_) {
        for (int direction = 0; direction < 4; ++direction)
            finder_.try_move(state, state.figure, Letter(direction));
        finder_.try_waiting(state);
        return finder_.found();
    }
    // Against crates, and into cells where something happens.
    const auto try_into = [&](int cell) {
        for (int direction = 0; direction < 4; ++direction)
            if (const int from = finder_.beside(cell, (direction + 2) % 4); from >= 0 && has(from))
                finder_.try_move(state, from, Letter(direction));
    };
    for (const int cell : finder_.crate_cells()) try_into(cell);
    for (const int cell : eventful_)
        if (!has(cell) && !finder_.has_crate(cell)) try_into(cell);
    return finder_.found();
}

} // namespace rubble::solve
