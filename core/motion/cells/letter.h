#pragma once

#include <string>

#include "motion/cells/puzzle.h"

namespace rubble::motion {

/// One step of play from cell to cell. Directions count counter-clockwise from the right.
enum class Letter : uint8_t { east, north, west, south, wait, use };

inline constexpr std::array letters{Letter::east,  Letter::north, Letter::west,
                                    Letter::south, Letter::wait,  Letter::use};
/// How a letter is written: `e`, `n`, `w`, `s`, `.`, and `u` for using what one stands on.
constexpr char char_of(Letter letter) { return "enws.u"[size_t(letter)]; }
/// The letter of a character; nothing where it is none.
std::optional<Letter> letter_of(char c);

/// What comes of a letter.
struct Played {
    enum class Outcome : uint8_t { moved, blocked, killed };
    Outcome outcome = Outcome::blocked;
    int pushed = -1; ///< the crate that was pushed
    CellState state; ///< of `blocked` as it was before
};

/// Plays a letter: the figure goes into the next cell, takes and opens what is there, pushes a crate before
/// it, slides; then belts carry, then foes go. Whoever would die does not get there.
Played played(const CellPuzzle& puzzle, const CellState& state, Letter letter);

/// Whether the figure stands on a goal.
bool solved(const CellPuzzle& puzzle, const CellState& state);
/// Whether a door lets pass.
bool is_open(const CellPuzzle& puzzle, const CellState& state, int door);
/// Whether a switch is on.
bool is_on(const CellPuzzle& puzzle, const CellState& state, int press);
/// The crate in a cell; -1 where none is.
int crate_in(const CellPuzzle& puzzle, const CellState& state, int cell);
/// Whether a crate that was pushed into a cell fills it.
bool is_filled(const CellPuzzle& puzzle, const CellState& state, int cell);
/// Where a foe is.
inline int cell_of_foe(const CellPuzzle& puzzle, const CellState& state, int foe) {
    return puzzle.foes[size_t(foe)].way[state.foes[size_t(foe)]];
}
/// How many keys, pick-ups or items of a kind were taken; keys that were spent do not count, one that is kept
/// counts very many.
int held(const CellPuzzle& puzzle, const CellState& state, ThingKind kind, int name);

} // namespace rubble::motion
