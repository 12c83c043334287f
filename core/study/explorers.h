#pragma once

#include "study/players.h"

namespace rubble::study {

struct ExplorersOptions {
    int runs = 1000;
    uint64_t first_seed = 1;
    double within_s = 180; ///< who has not found the goal by then gives up
    int tracks = 0;        ///< of the first runs the tracks are kept
    Cancel cancel;
    Progress progress;
};

/// What became of many who do not know the way.
struct Exploration {
    Crowd crowd; ///< who find the goal arrive; nobody misses a leap
    /// A part of the ground, a few metres wide.
    struct Area {
        Vec3 at{0};
        double area_m2 = 0;
        int visits = 0;   ///< of all players
        int found_by = 0; ///< players who came there
        int circles = 0;  ///< players who came there three times or more
    };
    std::vector<Area> areas;
};

/// Lets players look for an element who know nothing of the level: from where they are they see parts of the
/// ground, walk to what is new, the nearest and straight ahead first, and turn back to what they saw before
/// where nothing is; one place in ten they do not know again. They go the ways that the check found. Elements
/// that close ways count as open, and lifts as ways between their stops: how easily one gets lost is asked,
/// not which door is opened by what. Same seeds, same result, on any number of threads. Errors as of
/// run_players.
Result<Exploration> run_explorers(const Project& project, const Level& level, const ItemId& from,
                                  const ItemId& to, const ExplorersOptions& options);

} // namespace rubble::study
