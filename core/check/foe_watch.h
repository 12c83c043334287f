#pragma once

#include "check/check.h"

namespace rubble::check {

/// Whether the way of a foe is seen before it matters.
struct FoeWatch {
    ItemId foe;
    bool matters = false;     ///< the way to a goal comes near its way
    double seen_share = 0;    ///< of its way, from the best place before that
    std::optional<Vec3> from; ///< that place, on the way to a goal
};

/// For each foe of a checked level that goes a way: from where on the run to a goal its way is seen the best, before the
/// run first comes near it. Eyes and what is seen are at eye height. Empty where no goal is reached.
std::vector<FoeWatch> watch_foes(const Level& level, const CheckResult& result);

} // namespace rubble::check
