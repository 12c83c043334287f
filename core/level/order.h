#pragma once

#include <optional>
#include <vector>

#include "level/element_kinds.h"
#include "level/level.h"

namespace rubble {

/// A brush at its place in the order in which fills and cuts act: by layer, then by item, depth first.
struct OrderedBrush {
    const Item* item;
    const Brush* brush;
    int layer;
    /// Cuts of its group that take away from it and from nothing outside.
    std::vector<const Brush*> group_cuts = {};
    bool is_group_cut = false; ///< one of these, so that it cuts nothing else
};

/// All brushes of a level in order. The pointers live as long as the level's items.
std::vector<OrderedBrush> ordered_brushes(const Level& level);

/// The brushes that are not what they were, where the others stand in the same order as before and none came
/// or went; nothing otherwise. Found by comparing who shares what: without a look at what did not change.
std::optional<std::vector<const Item*>> brushes_changed_in_place(const std::vector<Shared<Layer>>& before,
                                                                 const std::vector<Shared<Layer>>& after);

/// All elements of a level, and those that have one role.
std::vector<const Item*> elements_of(const Level& level);
std::vector<const Item*> elements_of(const Level& level, Role role);

/// Those that are seen: not hidden themselves, nor with a group or a layer that holds them.
std::vector<const Item*> seen_elements_of(const Level& level);

} // namespace rubble
