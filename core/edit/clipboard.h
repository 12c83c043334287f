#pragma once

#include "edit/items.h"

namespace rubble::edit {

/// What was cut or copied: the items as they stood, and the middle of their base, which lands on the place
/// where they are put down.
struct Clip {
    std::vector<ItemPtr> items;
    Vec3 anchor{0};
    bool operator==(const Clip&) const = default;
};

/// The chosen items of a level, outermost ones only. Empty when none is there.
Clip copied(const Level& level, std::span<const ItemId> ids);

/// The clip put into layer `layer` with its anchor at `at`, with fresh ids.
Copies pasted(const Level& level, int layer, const Clip& clip, const Vec3& at);

} // namespace rubble::edit
