#include "motion/cells/rules.h"

namespace rubble::motion::cells {

bool foe_in(const CellPuzzle& puzzle, const CellState& state, int cell) {
    for (size_t i = 0; i < puzzle.foes.size(); ++i)
        if (cell_of_foe(puzzle, state, int(i)) == cell) return true;
    return false;
}

bool foes_go(const CellPuzzle& puzzle, CellState& state, int from) {
    bool free = true;
    for (size_t i = 0; i < puzzle.foes.size(); ++i) {
        const auto& way = puzzle.foes[i].way;
        const int before = cell_of_foe(puzzle, state, int(i));
        const uint16_t next = uint16_t((state.foes[i] + 1) % way.size());
        const int cell = way[next], door = puzzle.floor_of(cell).door;
        // A crate or a closed door on its way keeps it where it is.
        if (crate_in(puzzle, state, cell) < 0 && (door < 0 || is_open(puzzle, state, door)))
            state.foes[i] = next;
        const int now = cell_of_foe(puzzle, state, int(i));
        if (now == state.figure || (now == from && before == state.figure)) free = false;
    }
    return free;
}

} // namespace rubble::motion::cells
