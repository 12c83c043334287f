#pragma once

#include "level/level.h"

namespace rubble::edit {

/// The level with one item as another version of it has it: changed back, put in where it was there, or gone
/// where that has none. The same level where both have it alike, or neither has it.
Level with_item_as_in(const Level& level, const Level& other, const ItemId& id);

} // namespace rubble::edit
