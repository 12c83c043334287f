#pragma once

#include "core/motion/maker_world.h"
#include "motion/elements.h"
#include "motion/recording.h"

namespace rubble::test {

/// The stick alone.
inline motion::Input towards(Vec2 stick) { return {stick, false, false, false}; }

/// A level in play, one step after the other.
struct Play {
    explicit Play(const LevelMaker& maker, const Vec3& at = Vec3(0))
        : world(world_of(maker)),
          state(motion::begun_at(world, character, at)) {}
    void go(int steps, const motion::Input& input = {}) {
        for (int i = 0; i < steps; ++i) state = motion::step(world, character, state, input);
    }
    const motion::State& body() const { return state.body; }
    /// Where a crate is.
    Vec3 crate(size_t i = 0) const {
        return world.elements()->crates[i].room.place.at + motion::metres_of(state.puzzle.moved[i]);
    }
    Character character;
    motion::World world;
    motion::PlayState state;
};

} // namespace rubble::test
