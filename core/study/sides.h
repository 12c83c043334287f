#pragma once

#include <optional>

#include "base/result.h"
#include "check/check.h"

namespace rubble::study {

/// How the two sides of a level answer each other: mirrored across an upright plane, or turned half round.
struct Symmetry {
    enum class Kind { across_x, across_y, turned };
    Kind kind = Kind::across_x;
    Vec2 middle{0}; ///< in the plane, or what is turned about
    /// Where a place comes to on the other side.
    Vec3 across(const Vec3& place) const;
};

/// The symmetry that most items of a level have a counterpart by; nothing where fewer than half of them have.
/// Every two items of one size vote for what would make them counterparts (P. V. C. Hough, 1962).
std::optional<Symmetry> symmetry_of(const Level& level);

/// The two sides of a level beside each other.
struct Sides {
    Symmetry symmetry;
    double alike = 0;        ///< the share of items that have a counterpart
    std::vector<ItemId> odd; ///< those that have none
    /// A way between two elements, and the way between their counterparts.
    struct Run {
        ItemId from, to;
        std::optional<double> seconds; ///< nothing where one does not get there
        int spans = 0;
        std::optional<check::Grade> hardest;
    };
    struct Way {
        Run here, there;
        /// By how much the other side takes longer; nothing where only one gets there.
        std::optional<double> more_s() const;
        bool fair() const;
    };
    /// How much ground is seen from an element, and from its counterpart (square metres).
    struct View {
        ItemId here, there;
        double here_m2 = 0, there_m2 = 0;
    };
    std::vector<Way> ways; ///< the least fair first
    std::vector<View> views;
};

/// Compares the sides of a check's level. An error where it has none, or too few elements come in pairs.
Result<Sides> sides_of(const Project& project, const Level& level, const check::CheckResult& checked,
                       const Cancel& cancel = {});

} // namespace rubble::study
