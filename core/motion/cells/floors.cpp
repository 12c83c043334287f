#include "motion/cells/rules.h"

namespace rubble::motion::cells {

namespace {

bool is_immune(const CellPuzzle& puzzle, const CellState& state, int item) {
    return item >= 0 && held(puzzle, state, ThingKind::item, item) > 0;
}

} // namespace

bool survives(const CellPuzzle& puzzle, const CellState& state, int cell) {
    const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
    if (floor.hazard && !is_immune(puzzle, state, floor.hazard_without)) return false;
    const bool gone = floor.crumbles >= 0 && state.has(floor.crumbles);
    if (!gone && (!floor.deadly || is_immune(puzzle, state, floor.deadly_without))) return true;
    return is_filled(puzzle, state, cell);
}

void leave(const CellPuzzle& puzzle, CellState& state, int cell) {
    if (const int bit = puzzle.floor_of(cell).crumbles; bit >= 0 && !is_filled(puzzle, state, cell))
        state.set(bit);
}

bool slide(const CellPuzzle& puzzle, CellState& state, int direction) {
    while (puzzle.floor_of(state.figure).slippery) {
        const int next = puzzle.beside(state.figure, direction);
        if (next < 0 || !lets_in(puzzle, state, next, direction, false) || crate_in(puzzle, state, next) >= 0)
            return true;
        leave(puzzle, state, state.figure);
        enter(puzzle, state, next);
        if (!survives(puzzle, state, next) || foe_in(puzzle, state, next)) return false;
    }
    return true;
}

bool carry(const CellPuzzle& puzzle, CellState& state) {
    const auto belt_of = [&](int cell) { return puzzle.floor_of(cell).belt; };
    bool figure_goes = belt_of(state.figure) >= 0;
    uint32_t crates_go = 0;
    for (size_t i = 0; i < puzzle.crates.size(); ++i)
        if (state.stands(i) && belt_of(state.crates[i]) >= 0) crates_go |= uint32_t(1) << i;
    // The figure first, then crates as they were written; who is in the way of another makes room for it when
    // it goes itself.
    for (bool again = figure_goes || crates_go != 0; again;) {
        again = false;
        if (figure_goes) {
            const int direction = belt_of(state.figure), next = puzzle.beside(state.figure, direction);
            if (next >= 0 && lets_in(puzzle, state, next, direction, false) &&
                crate_in(puzzle, state, next) < 0) {
                figure_goes = false, again = true;
                leave(puzzle, state, state.figure);
                enter(puzzle, state, next);
                if (!survives(puzzle, state, next) || foe_in(puzzle, state, next)) return false;
                if (!slide(puzzle, state, direction)) return false;
            }
        }
        for (size_t i = 0; i < puzzle.crates.size(); ++i) {
            if (!(crates_go >> i & 1)) continue;
            const int direction = belt_of(state.crates[i]);
            if (!crate_could_go(puzzle, state, int(i), direction)) continue;
            move_crate(puzzle, state, int(i), direction);
            crates_go &= ~(uint32_t(1) << i);
            again = true;
        }
    }
    return true;
}

} // namespace rubble::motion::cells
