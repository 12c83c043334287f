#pragma once

#include <optional>
#include <span>
#include <unordered_set>

#include "level/level.h"

namespace rubble::edit {

// What edits of items are made of: lists of layers and groups in which some items become others, while all
// the rest stays shared with the list before.

/// Which items an edit is meant for, asked of every item of a level.
class Chosen {
public:
    explicit Chosen(std::span<const ItemId> ids) {
        if (ids.size() == 1)
            one_ = ids[0]; // by far the most frequent, and quicker compared than looked up
        else
            many_.insert(ids.begin(), ids.end());
    }
    /// Whether it is one of the chosen, or lies in one.
    bool has(const Item& item) const {
        return many_.empty() ? !one_.empty() && item.id == one_ : many_.contains(item.id);
    }

private:
    ItemId one_;
    std::unordered_set<ItemId> many_;
};

/// The list with what `change` makes of its items in their places; it returns nothing for what stays.
template <class F> ItemList with_each(const ItemList& items, F change) {
    ItemList out = items;
    size_t place = 0;
    for (const ItemPtr& item : items) {
        if (std::optional<Item> now = change(*item)) out.set(place, std::move(*now));
        ++place;
    }
    return out;
}

/// An item with its list of members changed; nothing where that stays, and for all that holds none.
template <class F> std::optional<Item> with_members(const Item& item, F change) {
    const ItemList* members = members_of(item);
    if (!members) return {};
    ItemList changed = change(*members);
    if (changed.is(*members)) return {};
    return rubble::with_members(item, std::move(changed));
}

/// A group with each of its members changed; all else as it is.
template <class F> Item with_each_member(const Item& item, F change) {
    const auto changed = [&](const Item& member) { return std::optional<Item>(change(member)); };
    return with_members(item, [&](const ItemList& members) { return with_each(members, changed); })
        .value_or(item);
}

/// The level with the lists of its layers changed.
template <class F> Level with_lists(const Level& level, F change) {
    Level out = level;
    for (auto& layer : out.layers) {
        ItemList items = change(layer->items);
        if (items.is(layer->items)) continue;
        Layer copy = *layer;
        copy.items = std::move(items);
        layer = std::move(copy);
    }
    return out;
}

} // namespace rubble::edit
