#pragma once

#include "build/solid.h"
#include "level/level.h"

namespace rubble::check {

enum class Lost {
    inside_matter, ///< a fill that adds nothing, or an element that stands in matter
    cuts_nothing,  ///< a cut that takes nothing away
    far_away,      ///< much farther from the middle of the level than the rest
};

struct LostItem {
    ItemId id;
    Lost how;
};

/// Items that nobody sees: worth a look, because they are forgotten or were put there by mistake. `solid` is
/// that of the level.
std::vector<LostItem> lost_items(const Level& level, const build::Solid& solid);

} // namespace rubble::check
