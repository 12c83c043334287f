#pragma once

#include <memory>
#include <vector>

#include "base/cancel.h"
#include "check/leap.h"

namespace rubble::check {

/// Which ledges can be reached from a ledge, each by a proven link from one that was reached before.
struct Reach {
    std::vector<int> via;     ///< for each ledge the link that reached it; -1: begins there, -2: not reached
    std::vector<int> from;    ///< for each ledge the ledge before it; -1 where none
    std::vector<bool> helped; ///< only with a late-jump grace, or after such a jump
    std::vector<std::shared_ptr<const Link>> links; ///< shared with the witnesses that use them
    size_t tries = 0;                               ///< leaps that were simulated
    bool complete = true;                           ///< false when stopped before the end

    bool reached(int ledge) const { return ledge >= 0 && via[size_t(ledge)] != -2 && !helped[size_t(ledge)]; }
    bool reached_with_help(int ledge) const {
        return ledge >= 0 && via[size_t(ledge)] != -2 && helped[size_t(ledge)];
    }
    /// The links from the beginning to a reached ledge, in order.
    std::vector<std::shared_ptr<const Link>> chain(int ledge) const;
};

struct ReachOptions {
    std::vector<int> help_for; ///< for `extended`: ledges that are tried with a late jump
    Cancel cancel;
};

/// The search: rounds in which every ledge not reached yet is tried from those reached in the last round,
/// in parallel and in a fixed order, so that the result does not depend on the number of threads.
/// `character` is taken with both graces at 0.
Reach search_reach(const Ground& ground, const motion::World& world, const Character& character,
                   const std::vector<int>& start_ledges, const ReachOptions& options = {});

/// A search with the ledges of `options.help_for` tried from what it reached, by late jumps.
Reach extended(Reach reach, const Ground& ground, const motion::World& world, const Character& character,
               const ReachOptions& options);

/// Which of the reached ledges have a way to one of `targets`, by links that are proven too. The found
/// links are added to `reach.links`.
std::vector<bool> search_return(const Ground& ground, const motion::World& world, const Character& character,
                                Reach& reach, const std::vector<int>& targets, const Cancel& cancel = {});

} // namespace rubble::check
