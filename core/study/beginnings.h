#pragma once

#include <set>

#include "check/check.h"

namespace rubble::study {

/// What is taken of a level that another begins from.
struct Keeping {
    std::set<LayerId> layers; ///< all else is left out
    bool brushes = true, tiles = true, pieces = false;
    MaterialId material = {}; ///< of brushes, where only some of them are wanted; empty: all
};
/// A level with nothing but the walls of another: solid tiles, and brushes with what is cut into them.
/// Without elements, claims and looks; it remembers where it came from.
Level begun_from(const Level& other, const std::string& file, const Keeping& keeping);

/// What a level was begun from.
struct BegunFrom {
    std::string file, name;
};
std::optional<BegunFrom> beginning_of(const Level& level);

/// How much of what a level was begun from is recognised in it.
struct Likeness {
    double walls_kept = 0;              ///< the part of its matter that is still matter, 0 to 1
    double walls_new = 0;               ///< the part of the matter now that was none
    std::optional<double> routes_alike; ///< the part of the way to the goal now that goes where one went;
                                        ///< none where either has no way
};
/// Looks at places spread evenly over both (the same ones every time).
Likeness likeness_of(const check::CheckResult& original, const check::CheckResult& now);

} // namespace rubble::study
