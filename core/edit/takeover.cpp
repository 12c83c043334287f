#include "edit/takeover.h"

#include "edit/items.h"
#include "level/order.h"

namespace rubble::edit {

namespace {

/// What holds an item in a level, and what stands before it there; both empty where it stands first in a
/// layer.
struct Seat {
    ItemId holder, before;
    LayerId layer;
};

std::optional<Seat> seat_in(const ItemList& items, const ItemId& id, const ItemId& holder) {
    ItemId before;
    for (const ItemPtr& item : items) {
        if (item->id == id) return Seat{holder, before, {}};
        if (const ItemList* members = members_of(*item))
            if (auto seat = seat_in(*members, id, item->id)) return seat;
        before = item->id;
    }
    return {};
}

std::optional<Seat> seat_of(const Level& level, const ItemId& id) {
    for (const auto& layer : level.layers)
        if (auto seat = seat_in(layer->items, id, {})) {
            seat->layer = layer->id;
            return seat;
        }
    return {};
}

} // namespace

Level with_item_as_in(const Level& level, const Level& other, const ItemId& id) {
    const Item *now = find_item(level, id), *there = find_item(other, id);
    if (!now && !there) return level;
    if (!there) return without(level, std::vector<ItemId>{id});
    if (now) return *now == *there ? level : with_changed(level, *there);
    const auto seat = seat_of(other, id);
    if (!seat) return level;
    // What it holds may be elsewhere by now: it comes under ids of its own then.
    Item item = *there;
    if (const ItemList* members = members_of(item)) {
        ItemList free;
        for (const ItemPtr& member : *members)
            if (!find_item(level, member->id)) free.push_back(member);
        item = with_members(item, std::move(free));
    }
    if (!seat->before.empty() && find_item(level, seat->before))
        return with_item_after(level, seat->before, item);
    if (const Item* holder = seat->holder.empty() ? nullptr : find_item(level, seat->holder)) {
        Item with = *holder;
        ItemList members = *members_of(with);
        members.push_back(ItemPtr(std::move(item)));
        return with_changed(level, with_members(with, std::move(members)));
    }
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (level.layers[i]->id == seat->layer) return with_item(level, int(i), std::move(item));
    return with_item(level, 0, std::move(item));
}

} // namespace rubble::edit
