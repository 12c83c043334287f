#include <algorithm>

#include "motion/cells/rules.h"

namespace rubble::motion {

bool is_on(const CellPuzzle& puzzle, const CellState& state, int index) {
    const CellPuzzle::Press& press = puzzle.switches[size_t(index)];
    if (press.mode != PressMode::held) return state.has(press.bit);
    return std::any_of(press.cells.begin(), press.cells.end(), [&](int cell) {
        return (press.by_foot && state.figure == cell) ||
               (press.by_crate && crate_in(puzzle, state, cell) >= 0);
    });
}

namespace cells {

namespace {

void change(CellState& state, const CellPuzzle::Press& press) {
    if (press.mode == PressMode::once) state.set(press.bit);
    if (press.mode == PressMode::toggle) state.flip(press.bit);
}

} // namespace

bool use(const CellPuzzle& puzzle, CellState& state, int cell) {
    const int index = puzzle.floor_of(cell).press;
    if (index < 0 || !puzzle.switches[size_t(index)].by_use) return false;
    change(state, puzzle.switches[size_t(index)]);
    return true;
}

void press(const CellPuzzle& puzzle, CellState& state, int cell, bool by_crate) {
    const int index = puzzle.floor_of(cell).press;
    if (index < 0) return;
    const CellPuzzle::Press& press = puzzle.switches[size_t(index)];
    if (!(by_crate ? press.by_crate : press.by_foot)) return;
    change(state, press);
}

} // namespace cells

} // namespace rubble::motion
