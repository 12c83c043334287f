#pragma once

#include "check/check.h"
#include "level/element_kinds.h"
#include "level/order.h"
#include "motion/recording.h"

namespace rubble::test {

/// A check without what only explains.
inline check::CheckResult checked(const Level& level) {
    check::CheckOptions options;
    options.explain = options.mends = false;
    return check::check_level({}, level, options);
}

/// Whether the goal is reached; undecided where its run does not get there in the level as it is played.
inline check::Reached goal_of(const check::CheckResult& result, const Level& level) {
    for (const check::Place& place : result.places) {
        if (role_of(*find_item(level, place.item)->element()) != Role::goal) continue;
        if (place.witness) {
            const auto end = motion::replayed(*result.world, result.character, place.witness->recording);
            if (!check::has_thing(*result.world, end, result.character, place.at))
                return check::Reached::undecided;
        }
        return place.reached;
    }
    return check::Reached::undecided;
}
inline check::Reached goal_of(const Level& level) { return goal_of(checked(level), level); }

} // namespace rubble::test
