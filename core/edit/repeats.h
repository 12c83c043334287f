#pragma once

#include <optional>

#include "edit/items.h"

namespace rubble::edit {

// Many from one: repeats, mirrored copies, and links that keep copies alike.

/// `times` copies of the items, each moved on by `step` from the one before and turned on by `turn_deg`; the
/// step turns with them, so that they go round.
Copies repeated(const Level& level, std::span<const ItemId> ids, int times, const Vec3& step,
                double turn_deg);

/// One item mirrored, with all it holds.
Item mirrored(const Item& item, const MirrorPlane& plane);
/// Mirrored copies of the items, in the layer or group of each. `linked`: they follow each other from then
/// on.
Copies mirrored(const Level& level, std::span<const ItemId> ids, const MirrorPlane& plane, bool linked);

/// Copies as `duplicated` makes them that share their originals' shapes: what is changed of one is changed of
/// all, but for their places.
Copies linked_copies(const Level& level, std::span<const ItemId> ids, const Vec3& by);

/// The others made linked copies of the first: brushes take its shape and keep their places. Groups must hold
/// as many brushes as it does; what they hold is linked one by one. Nothing where the items are not alike.
std::optional<Level> linked(const Level& level, std::span<const ItemId> ids);

/// `after`, which came from `before` by an edit, with what is linked to changed items changed too. Of two
/// that an edit changed itself neither follows.
Level with_links_followed(const Level& before, Level after);

/// Copies made independent; those that are left stay linked to each other.
Level unlinked(const Level& level, std::span<const ItemId> ids);
/// All items linked to one, itself not among them.
std::vector<ItemId> linked_to(const Level& level, const ItemId& id);

} // namespace rubble::edit
