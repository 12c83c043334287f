#pragma once

#include <array>
#include <compare>
#include <vector>

#include "motion/cells/cell_state.h"
#include "motion/step.h"

namespace rubble::motion {

/// What in a level is not as it was built, the same for everybody in it: what elements have changed, and
/// which matter is out of the way by that, such as an open door. Searches go over places and these; two that
/// are equal play alike.
struct PuzzleState {
    std::vector<SourceId> gone; ///< each once, ascending
    CellState cells;
    /// Freely: how far each crate is from where it was built, in `moved_unit_m`.
    std::vector<std::array<int, 3>> moved = {};
    auto operator<=>(const PuzzleState&) const = default;
};

/// Places that play moves to are whole numbers of this, so that states are the same on every machine
/// (metres).
inline constexpr double moved_unit_m = 1.0 / 4096;

/// All that changes in play: the body, and what it changed around it.
struct PlayState {
    State body;
    PuzzleState puzzle;
    double waited_s = 0; ///< by cells: since the last letter
    /// Freely: how far each thing that moves by itself is in its course, and since when each deck that
    /// crumbles was stepped on (steps; 0 where it was not); then, for each foe that comes nearer, three
    /// numbers: how far it is from where it was built, in `moved_unit_m`.
    std::vector<int> clocks = {};
    bool operator==(const PlayState&) const = default;
};

/// Play begins with a body in a state, in the level as it was built.
PlayState begun(const World& world, const Character& character, const State& body);
/// The same with the character put down at a place.
PlayState begun_at(const World& world, const Character& character, const Vec3& at);

/// Play goes on with the character put back to a place, with everything else as it is.
PlayState put_back(const World& world, const Character& character, PlayState state, const Vec3& at);
/// Whether the character is at a checkpoint.
bool is_at(const World& world, const Character& character, const State& body, const Vec3& checkpoint);

/// The next state of play. The world is the one that was built; what is gone from it is in the state.
PlayState step(const World& world, const Character& character, const PlayState& state, const Input& input);
/// The same in its place, without a copy where nothing acts.
void advance(const World& world, const Character& character, PlayState& state, const Input& input);

/// The state without, or again with, the matter of a source.
PuzzleState without(PuzzleState puzzle, const SourceId& source);
/// The matter of a source is there again.
PuzzleState with_again(PuzzleState puzzle, const SourceId& source);

} // namespace rubble::motion
