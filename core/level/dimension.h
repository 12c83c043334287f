#pragma once

#include <string>

#include "level/item.h"

namespace rubble {

struct Level;

/// An end of a dimension: a place in the box of a brush, as parts of its size from its low corner, so that it
/// moves, turns and stretches with it; or a place in the level where `item` is empty.
struct DimensionEnd {
    ItemId item;
    Vec3 place{0};
    bool operator==(const DimensionEnd&) const = default;
};

/// A distance that stays drawn between two places.
struct Dimension {
    DimensionId id;
    DimensionEnd from, to;
    bool operator==(const Dimension&) const = default;
};

/// Where an end is now; false where its item is gone.
bool place_of(const Level& level, const DimensionEnd& end, Vec3& place);
/// An end at a place of the level that belongs to an item, or to none.
DimensionEnd end_at(const Level& level, const ItemId& item, const Vec3& place);

} // namespace rubble
