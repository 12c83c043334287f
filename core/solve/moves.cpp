#include "solve/moves.h"

#include <algorithm>

#include "motion/cells/rules.h"

namespace rubble::solve {

using motion::CellPuzzle;
using motion::CellState;
using motion::Letter;

MoveFinder::MoveFinder(const CellPuzzle& puzzle)
    : puzzle_(puzzle),
      timed_(puzzle.timed()),
      simple_(!puzzle.timed() && puzzle.crates_are_simple()),
      beside_(size_t(puzzle.cells()) * 4, -1),
      plain_(size_t(puzzle.cells())),
      quiet_(size_t(puzzle.cells())),
      distance_(size_t(puzzle.cells()), -1),
      crate_(size_t(puzzle.cells())) {
    for (int cell = 0; cell < puzzle.cells(); ++cell) {
        const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
        plain_[size_t(cell)] = !floor.wall && !floor.slippery && floor.belt < 0 && floor.crumbles < 0 &&
                               floor.press < 0 && floor.one_way < 0 && floor.dispenser < 0 && !floor.goal;
        quiet_[size_t(cell)] = plain_[size_t(cell)] && !floor.deadly && !floor.hazard && floor.door < 0 &&
                               floor.thing < 0 && !floor.keeps_crates_out;
        for (int direction = 0; direction < 4; ++direction)
            if (const int next = puzzle.beside(cell, direction); next >= 0 && !puzzle.floor_of(next).wall)
                beside_[size_t(cell) * 4 + size_t(direction)] = next;
    }
}

bool MoveFinder::walked_freely(const CellState& state, int cell) const {
    if (!plain_[size_t(cell)] || crate_[size_t(cell)]) return false;
    const CellPuzzle::Floor& floor = puzzle_.floor_of(cell);
    if (floor.door >= 0 && !motion::is_open(puzzle_, state, floor.door)) return false;
    for (int thing = floor.thing; thing >= 0; thing = puzzle_.things[size_t(thing)].next)
        if (!state.has(puzzle_.things[size_t(thing)].bit)) return false;
    return !(floor.deadly || floor.hazard) || motion::cells::survives(puzzle_, state, cell);
}

void MoveFinder::flood(const CellState& state) {
    for (const int cell : queue_) distance_[size_t(cell)] = -1;
    queue_.assign(1, state.figure);
    distance_[state.figure] = 0;
    // In a cell where something happens only that is done.
    if (timed_ || !plain_[state.figure]) return;
    for (size_t i = 0; i < queue_.size(); ++i)
        for (int direction = 0; direction < 4; ++direction) {
            const int next = beside(queue_[i], direction);
            if (next < 0 || distance_[size_t(next)] >= 0 || !walked_freely(state, next)) continue;
            distance_[size_t(next)] = distance_[size_t(queue_[i])] + 1;
            queue_.push_back(next);
        }
}

void MoveFinder::play(const CellState& state, int from, int walked, Letter letter) {
    CellState there = state;
    there.figure = uint16_t(from);
    motion::Played played = motion::played(puzzle_, there, letter);
    if (played.outcome != motion::Played::Outcome::moved || played.state == there) return;
    moves_.push_back({played.state, walked + 1, from, letter, played.pushed, false});
}

void MoveFinder::note_crates(const CellState& state) {
    for (const int cell : crate_cells_) crate_[size_t(cell)] = 0;
    crate_cells_.clear();
    for (size_t i = 0; i < puzzle_.crates.size(); ++i) {
        if (!state.stands(i)) continue;
        const int size = puzzle_.crates[i].size;
        for (int row = 0; row < size; ++row)
            for (int column = 0; column < size; ++column) {
                const int cell = state.crates[i] + row * puzzle_.columns + column;
                crate_[size_t(cell)] = int8_t(i + 1);
                crate_cells_.push_back(cell);
            }
    }
}

bool MoveFinder::push_quietly(const CellState& state, int from, int direction, int crate_cell) {
    if (!simple_ || !quiet_[size_t(from)] || !quiet_[size_t(crate_cell)]) return false;
    const int to = beside(crate_cell, direction);
    if (to < 0) return true; // it stays
    if (crate_[size_t(to)]) return !puzzle_.rules.two_crates;
    if (!quiet_[size_t(to)]) return false;
    const int crate = crate_[size_t(crate_cell)] - 1;
    Move& move = moves_.emplace_back();
    move.after = state;
    move.after.figure = uint16_t(crate_cell), move.after.crates[size_t(crate)] = uint16_t(to);
    move.steps = distance_[size_t(from)] + 1, move.from = from, move.letter = Letter(direction);
    move.pushed = crate, move.quiet = true;
    return true;
}

void MoveFinder::try_move(const CellState& state, int from, Letter letter) {
    const int next = beside(from, int(letter));
    if (next < 0 || (crate_[size_t(next)] && push_quietly(state, from, int(letter), next))) return;
    play(state, from, std::max(distance_[size_t(from)], 0), letter);
}

void MoveFinder::try_waiting(const CellState& state) {
    if (timed_ || puzzle_.floor_of(state.figure).belt >= 0) play(state, state.figure, 0, Letter::wait);
    const int press = puzzle_.floor_of(state.figure).press;
    if (press >= 0 && puzzle_.switches[size_t(press)].by_use) play(state, state.figure, 0, Letter::use);
}

const std::vector<Move>& MoveFinder::moves_from(const CellState& state) {
    begin_moves();
    const bool alone = stands_alone(state);
    for (const int cell : queue_)
        for (int direction = 0; direction < 4; ++direction)
            if (const int next = beside(cell, direction); next >= 0 && (alone || distance_[size_t(next)] < 0))
                try_move(state, cell, Letter(direction));
    try_waiting(state);
    return moves_;
}

std::string MoveFinder::walk(const CellState& state, int to) {
    walk_from(state);
    std::string out;
    for (int at = to; at != state.figure;)
        for (int direction = 0; direction < 4; ++direction) {
            const int before = beside(at, direction);
            if (before < 0 || distance_[size_t(before)] != distance_[size_t(at)] - 1) continue;
            out += motion::char_of(Letter((direction + 2) % 4));
            at = before;
            break;
        }
    std::reverse(out.begin(), out.end());
    return out;
}

} // namespace rubble::solve
