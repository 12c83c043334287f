#pragma once

#include "check/check.h"
#include "check/reach_queries.h"

namespace rubble::check {

// The stages of a check. Each is a function of what it reads (matter, character, elements, question) and
// gives back what an earlier check found where that was the same: by the very same pointer, so that the next
// stage sees by comparing pointers that it has nothing to do either. Trials of mends, comparisons and
// simulated players take only the stages they need.

/// Where a character can stand in a world. Reads matter and character.
struct Terrain {
    std::shared_ptr<const motion::World> world;
    std::shared_ptr<const Ground> ground;
    bool operator==(const Terrain&) const = default; ///< whether it is the very same
};

/// Reads the solid: its world, the earlier one where no matter changed.
std::shared_ptr<const motion::World> world_stage(const build::Solid& solid, const CheckResult* before);

/// Reads the world and the character. `change` says what differs from the world of `before`, a check for the
/// same character.
Terrain terrain_stage(std::shared_ptr<const motion::World> world, const Character& character,
                      const CheckResult* before, const motion::WorldChange& change, const Cancel& cancel);

/// Where one gets to from the starts, and from where of it back to one or on to a goal. Reads the terrain
/// and where starts and goals are.
struct Ways {
    std::vector<Vec3> starts, goals;
    std::shared_ptr<const Reach> reach;
    std::vector<bool> returns; ///< for each ledge
};
/// Searches, or gives the search of before where starts and goals are the same on the same terrain.
Ways ways_stage(ReachQueries& queries, const Terrain& terrain, const Level& level, const CheckResult* before,
                const motion::WorldChange& change, const Cancel& cancel);

/// Whether each element is had. Reads the ways and where the elements are.
std::vector<Place> places_stage(ReachQueries& queries, const Ways& ways, const Level& level,
                                const CheckResult* before, bool explain, const Cancel& cancel);

/// What became of each claim. Reads the terrain, the claim and where its ends are.
std::vector<ClaimResult> claims_stage(ReachQueries& queries, const Terrain& terrain, const Level& level,
                                      const std::string& character_name, const CheckResult* before,
                                      const Cancel& cancel);

/// Spans of some links. Reads the terrain, the links and from which margins the project grades.
MeasuredLinks spans_stage(const Terrain& terrain, const Character& character, const Project& project,
                          const std::vector<std::shared_ptr<const Link>>& links, const CheckResult* before);

} // namespace rubble::check
