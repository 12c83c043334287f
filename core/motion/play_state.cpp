#include "motion/play_state.h"

#include <algorithm>

#include "motion/cells/cell_play.h"
#include "motion/elements.h"

namespace rubble::motion {

PlayState begun(const World& world, const Character& character, const State& body) {
    PlayState state{body, {}, 0};
    if (const auto& puzzle = world.moving().puzzle)
        state.puzzle.cells = begun_in_cell(*puzzle, *world.moving().cells, body);
    else if (const auto& elements = world.elements())
        state = begun_with(*elements, character, body);
    return state;
}

PlayState begun_at(const World& world, const Character& character, const Vec3& at) {
    return begun(world, character, state_at(world, character, at));
}

PlayState put_back(const World& world, const Character& character, PlayState state, const Vec3& at) {
    state.body = state_at(world, character, at);
    if (const auto& puzzle = world.moving().puzzle)
        state.puzzle.cells.figure = begun_in_cell(*puzzle, *world.moving().cells, state.body).figure;
    state.waited_s = 0;
    return state;
}

bool is_at(const World& world, const Character& character, const State& body, const Vec3& checkpoint) {
    const auto& by_cells = world.moving().cells;
    if (!by_cells) return has_at(character, body, checkpoint, false);
    return by_cells->cell_at(flat(body.at)) == by_cells->cell_at(flat(checkpoint)) && !body.dead;
}

PlayState step(const World& world, const Character& character, const PlayState& state, const Input& input) {
    if (state.body.dead) return state;
    if (world.moving().puzzle) return cell_play(world, character, state, input);
    if (world.elements()) return play_freely(world, character, state, input);
    return {step(world.without(state.puzzle.gone), character, state.body, input), state.puzzle, 0};
}

void advance(const World& world, const Character& character, PlayState& state, const Input& input) {
    if (world.moving().puzzle || world.elements() || state.body.dead) {
        state = step(world, character, state, input);
        return;
    }
    state.body = step(world.without(state.puzzle.gone), character, state.body, input);
    state.waited_s = 0;
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
