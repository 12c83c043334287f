#pragma once

#include <string>
#include <vector>

#include "level/level.h"

namespace rubble {

/// An item that was found, with the layer it lies in.
struct FoundItem {
    const Item* item;
    const Layer* layer;
};

/// The items that have every word of a text in their name, kind, shape, layer or materials, and a size or
/// place as it says: `length>4`, `height<0.5`, `z>3` (length, width, height, x, y, z in metres; turn in
/// degrees;
/// `=` to within a millimetre). Other words may be `hidden`, `locked`, `hollow`, `opening`. An empty text
/// finds all. In the order of storing.
std::vector<FoundItem> found_items(const Level& level, const std::string& text);

/// The groups that hold an item, from the outermost to it, and it at the end; empty where there is none.
std::vector<const Item*> path_to(const Level& level, const ItemId& id);

/// Whether the item, its group or its layer, or a layer that holds that, is locked.
bool is_locked(const Level& level, const ItemId& id);
/// The same for layers, by their place in the level: locked or hidden with what holds them.
bool is_locked(const Level& level, const Layer& layer);
/// Whether a layer is hidden, by itself or by one that it lies in.
bool is_hidden(const Level& level, const Layer& layer);

} // namespace rubble
