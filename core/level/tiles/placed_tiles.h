#pragma once

#include <functional>
#include <optional>
#include <string>

#include "level/item_list.h"
#include "level/tiles/tile_layer.h"
#include "level/transform.h"

namespace rubble {

/// A block of cells that goes along with other items, as part of an assembly. Where it comes to lie it is as
/// if its cells were painted there.
struct PlacedTiles {
    TileLayer tiles;     ///< its origin is where it lies
    LayerId layer;       ///< the layer of tiles that it lies in, where that one's cells fit its own
    bool upright = true; ///< seen from the side; else from above

    /// The frame in whose plane it lies.
    Frame plane() const { return upright ? Frame::side : Frame::plan; }
    bool operator==(const PlacedTiles&) const = default;
};

/// What every kind of item answers, as item.h says. @{
const char* type_key(const PlacedTiles& block);
const char* id_prefix(const PlacedTiles& block);
std::string kind_word(const PlacedTiles& block);
std::string search_words(const PlacedTiles& block);
std::string problem_of(const PlacedTiles& block, const PlacedTiles* before = nullptr);
Box3 box_of(const PlacedTiles& block);
std::optional<Placement> placement_of(const PlacedTiles& block);
std::optional<Vec3> place_of_part(const PlacedTiles& block, const Vec3& part);
std::optional<Vec3> part_at(const PlacedTiles& block, const Vec3& place);
/// Its cells stay cells: it is turned by the quarter turn that is nearest.
PlacedTiles transformed(const PlacedTiles& block, const Transform& transform);
const ItemList* members_of(const PlacedTiles& block);
PlacedTiles with_members(const PlacedTiles& block, ItemList members);
void for_each_reference(PlacedTiles& block, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
