#pragma once

#include <compare>
#include <vector>

#include "motion/step.h"

namespace rubble::motion {

/// What in a level is not as it was built, the same for everybody in it: which matter is out of the way, such
/// as an open door. What moves joins it here. Searches go over places and these; two that are equal play
/// alike.
struct PuzzleState {
    std::vector<SourceId> gone; ///< each once, ascending
    auto operator<=>(const PuzzleState&) const = default;
};

/// All that changes in play: the body, and what it changed around it.
struct PlayState {
    State body;
    PuzzleState puzzle;
    bool operator==(const PlayState&) const = default;
};

/// The next state of play. The world is the one that was built; what is gone from it is in the state.
PlayState step(const World& world, const Character& character, const PlayState& state, const Input& input);

/// The state without, or again with, the matter of a source.
PuzzleState without(PuzzleState puzzle, const SourceId& source);
/// The matter of a source is there again.
PuzzleState with_again(PuzzleState puzzle, const SourceId& source);

} // namespace rubble::motion
