#include "motion/recording.h"

namespace rubble::motion {

void Recording::add(const Input& input) {
    if (!runs.empty() && runs.back().input == input)
        ++runs.back().steps;
    else
        runs.push_back({1, input});
}

void Recording::append(const Recording& other) {
    for (const Run& run : other.runs) {
        if (!runs.empty() && runs.back().input == run.input)
            runs.back().steps += run.steps;
        else
            runs.push_back(run);
    }
}

int Recording::steps() const {
    int sum = 0;
    for (const Run& run : runs) sum += run.steps;
    return sum;
}

std::vector<State> replay(const World& world, const Character& character, const Recording& recording) {
    PlayState state = begun_at(world, character, recording.start);
    std::vector<State> states{state.body};
    for (const Recording::Run& run : recording.runs)
        for (int i = 0; i < run.steps && !states.back().dead; ++i) {
            state = step(world, character, state, run.input);
            states.push_back(state.body);
        }
    return states;
}

std::vector<PuzzleChange> puzzle_changes(const World& world, const Character& character,
                                         const Recording& recording) {
    PlayState state = begun_at(world, character, recording.start);
    std::vector<PuzzleChange> out{{0, state.puzzle}};
    size_t at = 0;
    for (const Recording::Run& run : recording.runs)
        for (int i = 0; i < run.steps && !state.body.dead; ++i) {
            state = step(world, character, state, run.input), ++at;
            if (!(state.puzzle == out.back().puzzle)) out.push_back({at, state.puzzle});
        }
    return out;
}

State replayed(const World& world, const Character& character, const Recording& recording) {
    PlayState state = begun_at(world, character, recording.start);
    for (const Recording::Run& run : recording.runs)
        for (int i = 0; i < run.steps && !state.body.dead; ++i)
            state = step(world, character, state, run.input);
    return state.body;
}

} // namespace rubble::motion
