#pragma once

#include <memory>
#include <vector>

#include "base/cancel.h"
#include "check/arrival.h"

namespace rubble::check {

/// Which ledges can be reached from some starts, each with the run that proves it.
struct Reach {
    std::vector<motion::PuzzleState> puzzles{{}};         ///< that were come to
    std::vector<std::shared_ptr<const Arrival>> arrivals; ///< by `index`; null where it is not reached
    /// Ledges not reached to which a link leads that could not be played in its place: nobody knows.
    std::vector<bool> doubtful;
    std::vector<std::shared_ptr<const Link>> links; ///< all that were found; shared with the witnesses
    size_t tries = 0;                               ///< leaps that were simulated
    bool complete = true;                           ///< false when stopped before the end

    /// Of the arrivals: those of all ledges for one puzzle state after the other.
    size_t index(Node node) const {
        return size_t(node.puzzle) * (arrivals.size() / puzzles.size()) + size_t(node.ledge);
    }
    /// Whether one gets there, with help or without.
    bool tinted(Node node) const { return node.ledge >= 0 && arrivals[index(node)]; }
    /// Whether one gets there without a late jump.
    bool reached(Node node) const { return tinted(node) && !arrivals[index(node)]->helped; }
    /// Whether one gets there only with a late jump.
    bool reached_with_help(Node node) const { return tinted(node) && arrivals[index(node)]->helped; }
    /// The arrivals from the beginning to a reached node, in order.
    std::vector<std::shared_ptr<const Arrival>> chain(Node node) const;
};

/// A search before an edit, for the same character.
struct ReachBefore {
    const Ground& ground;
    const Reach& reach;
    const std::vector<bool>& returns; ///< what `search_return` said
    const motion::WorldChange& change;
};

struct ReachOptions {
    /// Runs that no change comes near are taken over, and so is that a ledge far from all changes was not
    /// reached. The ground must have been found with the same ground before.
    const ReachBefore* before = nullptr;
    /// A whole search of the same ground by the same searcher that reached where this one begins: nothing
    /// else is reached than by it, and its links are tried first.
    const Reach* within = nullptr;
    std::vector<int> help_for; ///< for `extended`: ledges that are tried with a late jump
    Cancel cancel;
};

class LeapSearch;

/// The search: rounds in which every ledge not reached yet is tried from those reached in the last round,
/// in parallel and in a fixed order, so that the result does not depend on the number of threads. A ledge
/// counts as reached when the whole run to it, from a start on, has been played. The searcher is one without
/// late jumps; it keeps what it looked up for further searches of the same ground.
Reach search_reach(const LeapSearch& searcher, const std::vector<Vec3>& starts,
                   const ReachOptions& options = {});

/// The same from one arrival on, in the middle of play.
Reach search_reach(const LeapSearch& searcher, Arrival begin, const ReachOptions& options = {});

/// A search with the ledges of `options.help_for` tried from what it reached, by late jumps.
Reach extended(Reach reach, const Ground& ground, const motion::World& world, const Character& character,
               const ReachOptions& options);

/// Which of the reached ledges have a way to one of `targets`, by links that are proven too. The found
/// links are added to `reach.links`.
std::vector<bool> search_return(const LeapSearch& searcher, Reach& reach, const std::vector<int>& targets,
                                const ReachOptions& options = {});

} // namespace rubble::check
