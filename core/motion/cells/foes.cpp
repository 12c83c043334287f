#include "motion/cells/rules.h"

namespace rubble::motion::cells {

bool foe_in(const CellPuzzle& puzzle, const CellState& state, int cell) {
    for (size_t i = 0; i < puzzle.foes.size(); ++i)
        if (cell_of_foe(puzzle, state, int(i)) == cell) return true;
    return false;
}

namespace {

/// Whether a foe can go into a cell. A crate or a closed door keeps it where it is.
bool is_open_to_foes(const CellPuzzle& puzzle, const CellState& state, int cell) {
    const int door = puzzle.floor_of(cell).door;
    return crate_in(puzzle, state, cell) < 0 && (door < 0 || is_open(puzzle, state, door));
}

/// Where on its way one that comes nearer is next: a cell nearer where it sees the figure along a row or a
/// column, else where it is.
uint16_t nearer(const CellPuzzle& puzzle, const CellState& state, int from, int sight) {
    for (int direction = 0; direction < 4; ++direction) {
        int at = from;
        for (int far = 0; far < sight; ++far) {
            at = puzzle.beside(at, direction);
            if (at < 0 || puzzle.floor_of(at).wall || !is_open_to_foes(puzzle, state, at)) break;
            if (at != state.figure) continue;
            const int next = puzzle.beside(from, direction);
            return uint16_t(puzzle.floor_of(next).deadly ? from : next);
        }
    }
    return uint16_t(from);
}

} // namespace

bool foes_go(const CellPuzzle& puzzle, CellState& state, int from) {
    bool free = true;
    for (size_t i = 0; i < puzzle.foes.size(); ++i) {
        const CellPuzzle::Foe& foe = puzzle.foes[i];
        const int before = cell_of_foe(puzzle, state, int(i));
        const uint16_t next =
            foe.sight > 0 ? nearer(puzzle, state, before, foe.sight) : foe.next(state.foes[i]);
        if (is_open_to_foes(puzzle, state, foe.way[next])) state.foes[i] = next;
        const int now = cell_of_foe(puzzle, state, int(i));
        if (now == state.figure || (now == from && before == state.figure)) free = false;
    }
    return free;
}

} // namespace rubble::motion::cells
