#pragma once

#include <optional>

#include <tl/expected.hpp>

#include "check/reach.h"

namespace rubble::check {

/// The recording that proves a place is reached, with what happens on the way.
struct Witness {
    motion::Recording recording;
    struct Leg {
        std::shared_ptr<const Link> link; ///< null for the last walk
        int first_step;                   ///< when the link's own recording begins
    };
    std::vector<Leg> legs;
    motion::State end; ///< of the replay
    double seconds() const { return recording.seconds(); }
};

/// Where a thing at `at` is had: standing with the bottom covering it, feet within a step height of it.
struct Spot {
    int fragment = -1;
    Vec2 at{0};
    int ledge = -1;
};
/// The places to stand from which it is had, the nearest first.
std::vector<Spot> spots_of(const Ground& ground, const Character& character, const Vec3& at);

/// Whether a state has the thing at `at`.
bool has_thing(const motion::World& world, const motion::State& state, const Character& character,
               const Vec3& at);

/// What kept a proof from being made.
enum class WitnessFault {
    not_reached, ///< the ledge is not
    last_walk,   ///< the walk on the last ledge, to the place itself
    replay       ///< the whole, played with the character's graces
};

/// The runs to a reached ledge and the walk to `spot` put together into one recording, then replayed with
/// the character as it is.
tl::expected<Witness, WitnessFault> make_witness(const Ground& ground, const motion::World& world,
                                                 const Character& character, const Reach& reach,
                                                 const Spot& spot);

} // namespace rubble::check
