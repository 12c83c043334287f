#pragma once

#include <vector>

#include <glm/common.hpp>

#include "motion/play_state.h"

namespace rubble::motion {

/// Inputs that were given from a place on, one for each step; equal ones in a row are kept as one run.
struct Recording {
    struct Run {
        int steps = 0;
        Input input;
        bool operator==(const Run&) const = default;
    };
    Vec3 start{0};
    std::vector<Run> runs;

    /// One step more.
    void add(const Input& input);
    /// All of another one after it.
    void append(const Recording& other);
    /// How many there are.
    int steps() const;
    /// How long it lasts.
    double seconds() const { return steps() * step_s; }
    bool operator==(const Recording&) const = default;
};

/// The body's states in a replay of the level as it was built, the first one at the start: steps() + 1 of
/// them, fewer where the figure dies.
std::vector<State> replay(const World& world, const Character& character, const Recording& recording);
/// Where in a replay elements changed: each step from which on the level is like this, the first one 0.
struct PuzzleChange {
    size_t step = 0;
    PuzzleState puzzle;
};
/// A run as it was played.
struct PlayedRun {
    std::vector<State> bodies;            ///< as of `replay`
    std::vector<PuzzleChange> changes;    ///< what elements did meanwhile
    std::vector<std::vector<int>> clocks; ///< of what moves by itself, for each body
    /// All that there was at a step; the last one where there are not so many.
    PlayState at(size_t step) const;
};
/// The same run with what elements did meanwhile.
PlayedRun played(const World& world, const Character& character, const Recording& recording);
/// Only the last state of a replay.
State replayed(const World& world, const Character& character, const Recording& recording);

/// Where a run has been, in plan: boxes along the way of a few metres each.
struct Track {
    std::vector<Box2> boxes;

    /// One step more.
    void add(Vec2 p) {
        constexpr double k_longest_m = 3;
        if (!boxes.empty()) {
            Box2 box = boxes.back();
            box.add(p);
            const Vec2 size = box.high - box.low;
            if (std::max(size.x, size.y) <= k_longest_m) {
                boxes.back() = box;
                return;
            }
        }
        boxes.push_back({p, p});
    }
};

/// Steps a state with inputs and keeps them. The stick is rounded to 2^-20 of its way, so that recordings
/// stay short: steady inputs are steady to the last bit.
class Recorder {
public:
    Recorder(const World& world, const Character& character, const PlayState& state)
        : world_(&world),
          character_(&character),
          state_(state) {
        recording_.start = state.body.at;
        visited_.add(flat(state.body.at));
    }
    /// Nothing in the level is otherwise than it was built.
    Recorder(const World& world, const Character& character, const State& body)
        : Recorder(world, character, begun(world, character, body)) {}
    /// Makes a step, and gives the body's state after it.
    const State& advance(Input input) {
        input.stick = glm::round(input.stick * 0x1p20) * 0x1p-20;
        recording_.add(input);
        motion::advance(*world_, *character_, state_, input);
        visited_.add(flat(state_.body.at));
        return state_.body;
    }
    /// Of the body.
    const State& state() const { return state_.body; }
    const PlayState& play() const { return state_; }
    const World& world() const { return *world_; }
    const Recording& recording() const { return recording_; }
    /// Where the middle of the bottom has been, in plan.
    const Track& visited() const { return visited_; }

private:
    const World* world_;
    const Character* character_;
    PlayState state_;
    Recording recording_;
    Track visited_;
};

} // namespace rubble::motion
