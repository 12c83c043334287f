#pragma once

#include <memory>
#include <optional>

#include "check/leap.h"

namespace rubble::check {

/// What a search reaches: a ledge, and what is otherwise in the level then, as one of the search's puzzle
/// states; the first is the level as it was built.
struct Node {
    int ledge = -1;
    int puzzle = 0;

    Node() = default;
    Node(int l, int p = 0) : ledge(l), puzzle(p) {} // NOLINT: a ledge is one of the level as it was built
    bool operator==(const Node&) const = default;
};

/// How a ledge was reached: what was played since the ledge before it. Put one after another, the runs of a
/// chain of arrivals are one recording that replays bit for bit, for each begins in the state in which the
/// one before it ended.
struct Arrival {
    std::shared_ptr<const Link> link; ///< null where the search begins
    Node from;                        ///< before; no ledge where the search begins
    bool helped = false;              ///< by a late jump, or after one
    motion::Recording run;            ///< the walk to the link's start, then the link
    int leap_begins = 0;              ///< the step of `run` with which the link begins
    motion::PlayState rest;           ///< at the end of `run`
    motion::Track visited;            ///< where the middle of the bottom was during `run`
};

/// The beginning of a search: coming to rest at `start`. Nothing where one never does.
std::optional<Arrival> arrival_at_start(const motion::World& world, const Character& character,
                                        const Vec3& start);

/// Plays a link from a walk on its ledge, which begins where the ledge was reached: on to its start, and the
/// leap from there. Nothing where it does not come to rest on the link's ledge: then the link proves nothing.
std::optional<Arrival> arrival_by(const Ground& ground, const Character& character, motion::Recorder walk,
                                  const Arrival& before, const std::shared_ptr<const Link>& link);

} // namespace rubble::check
