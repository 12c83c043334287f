#pragma once

#include <span>

#include "level/level.h"

namespace rubble::edit {

/// Edits of items: functions from a level to a level. Ids that are not there are passed over.

/// An id that no item of the level has: `prefix` and the first free number.
ItemId fresh_id(const Level& level, const std::string& prefix);

/// A copy of the item and all it holds under ids that are free in the level.
Item with_fresh_ids(const Level& level, const Item& item);

/// `item` at the end of layer `layer` (clamped), or of the nearest that is not of tiles, or of a new one
/// where all are. Its id must be free.
Level with_item(const Level& level, int layer, Item item);
/// `item` right after another, in its group or layer; at the end of the first layer where that is not there.
Level with_item_after(const Level& level, const ItemId& other, const Item& item);
/// The item of the same id replaced, wherever it stands.
Level with_changed(const Level& level, const Item& item);
/// Many replaced at once, in the time of one.
Level with_all_changed(const Level& level, std::span<const Item> items);
/// Items gone, wherever they lie.
Level without(const Level& level, std::span<const ItemId> ids);

/// Items put one place later in the order of fills and cuts (earlier where not `later`), each within its own
/// layer or group; what stands at the end stays.
Level moved_in_order(const Level& level, std::span<const ItemId> ids, bool later);

/// Items gone elsewhere as a whole; groups with all they hold.
Level transformed(const Level& level, std::span<const ItemId> ids, const Transform& transform);
/// Items moved by a distance; groups with all they hold.
Level moved(const Level& level, std::span<const ItemId> ids, const Vec3& by);
/// Items turned about an axis of unit length through `about`, counter-clockwise seen against it.
Level turned(const Level& level, std::span<const ItemId> ids, const Vec3& about, double deg,
             const Vec3& axis = {0, 0, 1});
/// Items made larger or smaller in proportion, with all their measures, about a place that stays; the
/// openings in them too. `factor` is above 0.
Level scaled(const Level& level, std::span<const ItemId> ids, const Vec3& about, double factor);
/// Copies of the items, and of the openings in them, beside them in order, moved by `by`, with fresh ids;
/// references among the copies point to the copies.
struct Copies {
    Level level;
    std::vector<ItemId> ids;
};
/// Copies of items moved by a step, each beside its original.
Copies duplicated(const Level& level, std::span<const ItemId> ids, const Vec3& by);

/// The items (all of one layer or not) put into one new group at the place of the last of them.
Copies grouped(const Level& level, std::span<const ItemId> ids);
/// The members of groups put where the group stood.
Copies ungrouped(const Level& level, std::span<const ItemId> ids);

/// Level-wide edits of claims and layers.
Level with_claim(const Level& level, Claim claim);
/// A claim gone.
Level without_claim(const Level& level, const ClaimId& id);
/// An empty layer more, above the others.
Level with_layer(const Level& level, const Layer& layer);
/// One that no claim of the level has.
ClaimId fresh_claim_id(const Level& level);
/// One that no layer of the level has.
LayerId fresh_layer_id(const Level& level);

} // namespace rubble::edit
