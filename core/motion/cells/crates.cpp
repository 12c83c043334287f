#include "motion/cells/rules.h"

namespace rubble::motion {

namespace {

bool covers(const CellPuzzle& puzzle, int crate, int corner, int cell) {
    const int size = puzzle.crates[size_t(crate)].size;
    if (size == 1) return corner == cell;
    const CellAt low = puzzle.at(corner), at = puzzle.at(cell);
    return at.column >= low.column && at.row >= low.row && at.column < low.column + size &&
           at.row < low.row + size;
}

} // namespace

int crate_in(const CellPuzzle& puzzle, const CellState& state, int cell) {
    for (size_t i = 0; i < puzzle.crates.size(); ++i)
        if (state.stands(i) && covers(puzzle, int(i), state.crates[i], cell)) return int(i);
    return -1;
}

bool is_filled(const CellPuzzle& puzzle, const CellState& state, int cell) {
    for (size_t i = 0; i < puzzle.crates.size(); ++i)
        if (state.crates[i] & CellState::filled &&
            covers(puzzle, int(i), state.crates[i] & ~CellState::filled, cell))
            return true;
    return false;
}

namespace cells {

namespace {

/// Calls `visit` for the cells of a crate whose upper left cell is `corner` until one is refused.
template <class F> bool all_cells(const CellPuzzle& puzzle, int crate, int corner, F visit) {
    const int size = puzzle.crates[size_t(crate)].size;
    for (int row = 0; row < size; ++row)
        for (int column = 0; column < size; ++column)
            if (!visit(corner + row * puzzle.columns + column)) return false;
    return true;
}

/// What a crate would fill: deadly ground, or what has crumbled away.
bool is_pit(const CellPuzzle& puzzle, const CellState& state, int cell) {
    const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
    const bool deep = floor.deadly || (floor.crumbles >= 0 && state.has(floor.crumbles));
    return deep && !is_filled(puzzle, state, cell);
}

/// Whether a crate could come to lie in a cell, whatever other crates do.
bool holds_crate(const CellPuzzle& puzzle, const CellState& state, int cell, int direction) {
    const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
    if (floor.wall || floor.keeps_crates_out || (floor.one_way >= 0 && floor.one_way != direction))
        return false;
    if (floor.door >= 0 && !is_open(puzzle, state, floor.door)) return false;
    if (foe_in(puzzle, state, cell)) return false;
    for (int thing = floor.thing; thing >= 0; thing = puzzle.things[size_t(thing)].next)
        if (!state.has(puzzle.things[size_t(thing)].bit)) return false;
    return true;
}

/// The upper left cell of a crate after a step; -1 where the level ends.
int corner_beside(const CellPuzzle& puzzle, int crate, int corner, int direction) {
    const int next = puzzle.beside(corner, direction);
    const int far = corner + (puzzle.crates[size_t(crate)].size - 1) * (puzzle.columns + 1);
    return next < 0 || puzzle.beside(far, direction) < 0 ? -1 : next;
}

/// Whether a crate has room beside it; with `other`, another one there does not count and is named.
bool has_room(const CellPuzzle& puzzle, const CellState& state, int crate, int direction, int* other) {
    const int corner = state.crates[size_t(crate)], next = corner_beside(puzzle, crate, corner, direction);
    if (next < 0) return false;
    return all_cells(puzzle, crate, next, [&](int cell) {
        if (covers(puzzle, crate, corner, cell)) return true;
        if (const int there = crate_in(puzzle, state, cell); there >= 0) {
            if (!other || (*other >= 0 && *other != there)) return false;
            *other = there;
        }
        return holds_crate(puzzle, state, cell, direction) && state.figure != cell;
    });
}

} // namespace

bool crate_could_go(const CellPuzzle& puzzle, const CellState& state, int crate, int direction) {
    return has_room(puzzle, state, crate, direction, nullptr);
}

void move_crate(const CellPuzzle& puzzle, CellState& state, int crate, int direction) {
    const int before = state.crates[size_t(crate)], now = corner_beside(puzzle, crate, before, direction);
    state.crates[size_t(crate)] = uint16_t(now);
    all_cells(puzzle, crate, now, [&](int cell) {
        if (!covers(puzzle, crate, before, cell)) press(puzzle, state, cell, true);
        return true;
    });
    if (all_cells(puzzle, crate, now, [&](int cell) { return is_pit(puzzle, state, cell); }))
        state.crates[size_t(crate)] |= CellState::filled;
}

int push(const CellPuzzle& puzzle, CellState& state, int cell, int direction) {
    const int crate = crate_in(puzzle, state, cell), needs = puzzle.crates[size_t(crate)].needs;
    int other = -1;
    if (puzzle.rules.nobody_pushes || (needs >= 0 && held(puzzle, state, ThingKind::item, needs) == 0))
        return -1;
    if (!has_room(puzzle, state, crate, direction, puzzle.rules.two_crates ? &other : nullptr)) return -1;
    if (other >= 0) {
        if (!crate_could_go(puzzle, state, other, direction)) return -1;
        move_crate(puzzle, state, other, direction);
    }
    move_crate(puzzle, state, crate, direction);
    // On slippery floor it goes on where the project says that crates do.
    const auto slips = [&](int one) {
        const uint16_t corner = state.crates[size_t(one)];
        return !(corner & CellState::filled) &&
               all_cells(puzzle, one, corner, [&](int c) { return puzzle.floor_of(c).slippery; });
    };
    if (puzzle.rules.crates_slide)
        for (const int one : {other, crate})
            while (one >= 0 && slips(one) && crate_could_go(puzzle, state, one, direction))
                move_crate(puzzle, state, one, direction);
    return crate;
}

} // namespace cells

} // namespace rubble::motion
