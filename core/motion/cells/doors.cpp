#include <algorithm>
#include <limits>

#include "motion/cells/rules.h"

namespace rubble::motion {

int held(const CellPuzzle& puzzle, const CellState& state, ThingKind kind, int name) {
    int count = 0;
    for (const CellPuzzle::Thing& thing : puzzle.things)
        if (thing.name == name && thing.kind == kind && state.has(thing.bit)) ++count;
    if (kind != ThingKind::key) return count;
    if (held(puzzle, state, ThingKind::kept_key, name) > 0 || (count > 0 && puzzle.rules.keys_are_kept))
        return std::numeric_limits<int>::max();
    for (const CellPuzzle::Door& door : puzzle.doors)
        if (door.key == name && state.has(door.paid)) --count;
    return count;
}

bool is_open(const CellPuzzle& puzzle, const CellState& state, int index) {
    const CellPuzzle::Door& door = puzzle.doors[size_t(index)];
    if (door.opened >= 0 && state.has(door.opened)) return true;
    if (door.pick_up >= 0 && held(puzzle, state, ThingKind::pick_up, door.pick_up) >= door.count) return true;
    const bool swapped = std::any_of(door.switches.begin(), door.switches.end(),
                                     [&](int press) { return is_on(puzzle, state, press); });
    return door.open != swapped;
}

namespace cells {

bool has_key_for(const CellPuzzle& puzzle, const CellState& state, int door) {
    const int key = puzzle.doors[size_t(door)].key;
    return key >= 0 && held(puzzle, state, ThingKind::key, key) > 0;
}

void open_with_key(const CellPuzzle& puzzle, CellState& state, int index) {
    const CellPuzzle::Door& door = puzzle.doors[size_t(index)];
    const bool spent = held(puzzle, state, ThingKind::key, door.key) < std::numeric_limits<int>::max();
    state.set(door.opened);
    if (spent) state.set(door.paid);
}

} // namespace cells

} // namespace rubble::motion
