#include "motion/recording.h"

#include <algorithm>

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

PlayedRun played(const World& world, const Character& character, const Recording& recording) {
    PlayState state = begun_at(world, character, recording.start);
    PlayedRun out{{state.body}, {{0, state.puzzle}}, {state.clocks}};
    for (const Recording::Run& run : recording.runs)
        for (int i = 0; i < run.steps && !state.body.dead; ++i) {
            state = step(world, character, state, run.input);
            out.bodies.push_back(state.body), out.clocks.push_back(state.clocks);
            if (!(state.puzzle == out.changes.back().puzzle))
                out.changes.push_back({out.bodies.size() - 1, state.puzzle});
        }
    return out;
}

PlayState PlayedRun::at(size_t step) const {
    PlayState out;
    if (bodies.empty()) return out;
    step = std::min(step, bodies.size() - 1);
    out.body = bodies[step], out.clocks = clocks[step];
    for (const PuzzleChange& change : changes)
        if (change.step <= step) out.puzzle = change.puzzle;
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
