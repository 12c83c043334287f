#include "motion/play_state.h"

#include <algorithm>

namespace rubble::motion {

PlayState step(const World& world, const Character& character, const PlayState& state, const Input& input) {
    return {step(world.without(state.puzzle.gone), character, state.body, input), state.puzzle};
}

PuzzleState without(PuzzleState puzzle, const SourceId& source) {
    const auto place = std::lower_bound(puzzle.gone.begin(), puzzle.gone.end(), source);
    if (place == puzzle.gone.end() || *place != source) puzzle.gone.insert(place, source);
    return puzzle;
}

PuzzleState with_again(PuzzleState puzzle, const SourceId& source) {
    std::erase(puzzle.gone, source);
    return puzzle;
}

} // namespace rubble::motion
