#pragma once

#include <unordered_set>

#include "level/level.h"

namespace rubble {

/// What differs between two levels, found by comparing who shares what, not contents.
struct Diff {
    std::unordered_set<ItemId> added;
    std::unordered_set<ItemId> removed;
    std::unordered_set<ItemId> changed;
    bool order = false;  ///< items or layers stand in another order, or went to another layer
    bool claims = false; ///< claims, character, name or another value of the level itself

    bool empty() const { return added.empty() && removed.empty() && changed.empty() && !order && !claims; }
};

Diff difference(const Level& before, const Level& after);

} // namespace rubble
