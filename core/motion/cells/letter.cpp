#include "motion/cells/letter.h"

#include "motion/cells/rules.h"

namespace rubble::motion {

using Outcome = Played::Outcome;

std::optional<Letter> letter_of(char c) {
    for (const Letter letter : letters)
        if (char_of(letter) == c) return letter;
    return {};
}

bool solved(const CellPuzzle& puzzle, const CellState& state) { return puzzle.floor_of(state.figure).goal; }

namespace cells {

bool lets_in(const CellPuzzle& puzzle, const CellState& state, int cell, int direction, bool opens) {
    const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
    if (floor.wall || (floor.one_way >= 0 && floor.one_way != direction)) return false;
    return floor.door < 0 || is_open(puzzle, state, floor.door) ||
           (opens && has_key_for(puzzle, state, floor.door));
}

void enter(const CellPuzzle& puzzle, CellState& state, int cell) {
    const CellPuzzle::Floor& floor = puzzle.floor_of(cell);
    state.figure = uint16_t(cell);
    for (int thing = floor.thing; thing >= 0; thing = puzzle.things[size_t(thing)].next)
        state.set(puzzle.things[size_t(thing)].bit);
    press(puzzle, state, cell, false);
}

} // namespace cells

Played played(const CellPuzzle& puzzle, const CellState& before, Letter letter) {
    Played out{Outcome::moved, -1, before};
    CellState& state = out.state;
    const auto ends = [&](Outcome outcome) {
        out.outcome = outcome;
        if (outcome == Outcome::blocked) state = before;
        return out;
    };
    if (letter == Letter::use) {
        if (!cells::use(puzzle, state, before.figure)) return ends(Outcome::blocked);
    } else if (letter != Letter::wait) {
        const int direction = int(letter), next = puzzle.beside(before.figure, direction);
        if (next < 0 || !cells::lets_in(puzzle, before, next, direction, true)) return ends(Outcome::blocked);
        // A door is as it was before a push that changes it.
        if (const int door = puzzle.floor_of(next).door; door >= 0 && !is_open(puzzle, before, door))
            cells::open_with_key(puzzle, state, door);
        if (crate_in(puzzle, before, next) >= 0) {
            out.pushed = cells::push(puzzle, state, next, direction);
            if (out.pushed < 0) return ends(Outcome::blocked);
        }
        cells::leave(puzzle, state, before.figure);
        cells::enter(puzzle, state, next);
        if (!cells::survives(puzzle, state, next) || cells::foe_in(puzzle, state, next) ||
            !cells::slide(puzzle, state, direction))
            return ends(Outcome::killed);
    }
    cells::dispense(puzzle, before, state);
    if (!cells::carry(puzzle, state)) return ends(Outcome::killed);
    if (!cells::foes_go(puzzle, state, before.figure)) return ends(Outcome::killed);
    return out;
}

} // namespace rubble::motion
