#pragma once

#include "cast/layout.h"

namespace rubble::cast {

/// What was found out about a cast by playing it.
struct Figures {
    double time_s = 0;                 ///< from start to goal
    double length_m = 0;               ///< of that way, in plan and height
    int easy = 0, fair = 0, tight = 0; ///< spans on it
    int pieces = 0, dead_ends = 0, loops = 0, pick_ups = 0;
    int open_joints = 0;
    bool operator==(const Figures&) const = default;
};

/// A level put together by chance, in which the goal is reached from the start.
struct Cast {
    uint64_t seed = 0;
    Layout layout;
    Level level;
    Figures figures;
    std::vector<Vec3> way; ///< where the feet are on the run from start to goal, every tenth of a second
};

/// Casts a level by a seed: lays it out, builds it, and has the character go from start to goal. What it does
/// not get through is thrown away and laid out anew, a bounded number of times. The same seed gives the same
/// level. Fails with what could be otherwise in the rules.
Result<Cast> cast_level(const Project& project, const Rules& rules, const Parts& parts, uint64_t seed,
                        const Cancel& cancel = {});

/// A cast put into a level as ordinary items, in a layer of its own under free ids. Start, goal and the claim
/// that it is reached come along only where the level has no start. `ids` are those of the items.
Level taken_over(const Level& level, const Cast& cast, const std::string& layer_name,
                 std::vector<ItemId>& ids);

/// What is proposed for a kit: its pieces that fill cells and have passages, those with one or two oftener,
/// and, not used at first, the assemblies that could be rooms. The area is a square from `low` on.
Rules proposed_rules(const Project& project, const std::string& kit_file, const ModuleCell& low = {0, 0, 0});

/// The items of a layout, in a level of their own, without start and goal.
Level level_of(const Project& project, const Rules& rules, const Parts& parts, const Layout& layout);

} // namespace rubble::cast
