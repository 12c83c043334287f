#pragma once

#include <unordered_map>
#include <unordered_set>

#include "level/level.h"

namespace rubble::edit {

/// Ids that are free in a level, each handed out once, and which copy an item got, so that references among
/// copies point to copies.
class FreshIds {
public:
    explicit FreshIds(const Level& level);

    /// `prefix` and the first free number.
    ItemId next(const std::string& prefix);

    /// A copy of the item, and of all it holds, under fresh ids.
    Item copy_of(const Item& item);
    /// The copy with its openings put into the copies of their walls. Once all are copied: a wall may come
    /// after its opening. What belongs to a wall that was not copied stays with that.
    Item with_copied_hosts(const Item& copy) const;

    /// Whether an item of that id was copied.
    bool has_copied(const ItemId& item) const { return copies_.contains(item); }

private:
    std::unordered_set<std::string> taken_;
    std::unordered_map<ItemId, ItemId> copies_;
};

} // namespace rubble::edit
