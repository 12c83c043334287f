#pragma once

#include <optional>

#include "base/cancel.h"
#include "cast/parts.h"

namespace rubble::cast {

/// A part where its low corner is laid.
struct Laid {
    size_t part = 0;
    ModuleCell at{0, 0, 0};
    bool operator==(const Laid&) const = default;
};

/// Parts laid side by side so that their joints match. The first is where play begins.
struct Layout {
    std::vector<Laid> laid;
    std::vector<std::array<size_t, 2>> ways; ///< pairs of `laid` that one goes between, one for each joint
    size_t goal = 0;                         ///< of `laid`
    int goal_away = 0;                       ///< how many ways it is from the first at least
    int loops = 0, dead_ends = 0;            ///< without start and goal
    int open_joints = 0;
    bool operator==(const Layout&) const = default;
};

/// Lays as many parts as the rules ask for, by chance: always one into a cell that a passage looks into, so
/// that all hang together. What would leave a passage that nothing can close, or more of them than parts are
/// left, is not laid; where nothing can be, the last is taken back (depth first, with a bound on steps and
/// fresh beginnings). Only whole numbers decide, so that a seed gives the same layout on every machine.
/// Nothing where none was found.
std::optional<Layout> laid_out(const Rules& rules, const Parts& parts, uint64_t seed,
                               const Cancel& cancel = {});

} // namespace rubble::cast
