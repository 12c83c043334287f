#pragma once

#include "motion/world.h"

namespace rubble::motion {

/// What became of the columns of a world by an edit: the rest of it is as it was, so that what was found out
/// there still holds.
struct WorldChange {
    std::vector<int> before;  ///< for each column its index in the world before; -1 where it is new
    std::vector<Box2> places; ///< where columns came or went, in plan

    /// Whether anything came or went there.
    bool touches(const Box2& area) const;
};

/// A source that brings the same columns to both worlds did not change for the character.
WorldChange change_between(const World& before, const World& now);

} // namespace rubble::motion
