#pragma once

#include <memory>
#include <vector>

#include "check/ground.h"
#include "level/level.h"

namespace rubble::check {

/// What a level seen from above is as a maze. Lengths are those of the corridors' middle lines.
struct Maze {
    struct Way {
        std::vector<Vec2> places; ///< along it, each near the one before
        double length_m = 0;
    };
    /// What leads nowhere, with all its branches.
    struct DeadEnd {
        std::vector<Way> branches;
        double length_m = 0;
    };
    /// A part of the shortest way round which there is a longer one.
    struct Shortcut {
        Way way;
        double saves_m = 0;
    };

    /// Where a dead end would lead on if a wall were open.
    struct Opening {
        Vec2 from{0}, to{0};
        double wall_m = 0;  ///< how thick the wall is
        double saves_m = 0; ///< what is no longer walked twice
    };

    double corridors_m = 0;              ///< all middle lines together
    double narrowest_m = 0, usual_m = 0; ///< free width of the corridors; usual: the median
    Vec2 narrowest_at{0};
    std::vector<DeadEnd> dead_ends;  ///< the longest first
    double twice_m = 0;              ///< what one walks twice because of them
    int loops = 0;                   ///< how many ways lead round something, each counted once
    std::vector<Shortcut> shortcuts; ///< those that save most first
    std::vector<Opening> openings;   ///< one for each dead end for which there is one
    Way shortest, longest;           ///< from start to goal; `longest` goes nowhere twice
    bool longest_is_longest = true;  ///< false where there are too many ways to try them all

    /// Share of the corridors that lies on the shortest way (0 to 1).
    double on_the_way() const { return corridors_m > 0 ? shortest.length_m / corridors_m : 0; }
};

/// The maze of a level that is seen from above, around its start and goal. Null in other frames, where no way
/// leads from the one to the other, and where it is too large to be looked at.
std::shared_ptr<const Maze> maze_of(const Level& level, const motion::World& world, const Ground& ground,
                                    const Character& character, const Vec3& start, const Vec3& goal,
                                    const Cancel& cancel = {});

} // namespace rubble::check
