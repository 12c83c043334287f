#include <algorithm>

#include "motion/cells/rules.h"

namespace rubble::motion::cells {

namespace {

bool is_called(const CellPuzzle& puzzle, const CellState& before, const CellState& now,
               const CellPuzzle::Dispenser& dispenser) {
    return dispenser.switches.empty() ||
           std::any_of(dispenser.switches.begin(), dispenser.switches.end(),
                       [&](int press) { return is_on(puzzle, now, press) && !is_on(puzzle, before, press); });
}

} // namespace

void dispense(const CellPuzzle& puzzle, const CellState& before, CellState& state) {
    for (const CellPuzzle::Dispenser& dispenser : puzzle.dispensers) {
        if (!is_called(puzzle, before, state, dispenser)) continue;
        const int cell = dispenser.cell;
        if (state.figure == cell || crate_in(puzzle, state, cell) >= 0 || foe_in(puzzle, state, cell))
            continue;
        for (int i = dispenser.first; i < dispenser.first + dispenser.count; ++i) {
            if (state.crates[size_t(i)] != CellState::stored) continue;
            state.crates[size_t(i)] = uint16_t(cell);
            press(puzzle, state, cell, true);
            break;
        }
    }
}

} // namespace rubble::motion::cells
