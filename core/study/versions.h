#pragma once

#include "check/ground.h"
#include "study/comparison.h"

namespace rubble::study {

/// What became of an item between two versions of a level.
struct ItemChange {
    enum class Kind { added, gone, moved, changed };
    Kind kind = Kind::changed;
    ItemId item;
    Box3 was, now; ///< what it takes in; empty where it is not
    /// How far its middle moved.
    Vec3 by() const { return now.middle() - was.middle(); }
};

/// Ground that one got to and does no more, or does now and did not.
struct GroundChange {
    bool gained = false;
    double area_m2 = 0;
    Vec3 at{0}; ///< about its middle
    std::vector<std::vector<Vec3>> areas;
};

/// A level beside an earlier version of it.
struct VersionDifference {
    std::vector<ItemChange> items;    ///< those gone first, in the order of storing
    std::vector<GroundChange> ground; ///< the largest first
    Comparison checks;
};

/// What differs between two levels and what the checks say of them. Ground is told by the middles of its
/// fragments: what lies no more than a metre over or under ground that one gets to in the other is the same.
VersionDifference difference_of(const Level& was_level, const check::CheckResult& was, const Level& now_level,
                                const check::CheckResult& now);

/// The earlier run to the same end as one of a check's: of the same claim, else to the same element. Null
/// where there was none.
const check::Witness* same_run(const check::CheckResult& was, const check::CheckResult& now,
                               const check::Witness& run);

} // namespace rubble::study
