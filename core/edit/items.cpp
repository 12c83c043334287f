#include "edit/items.h"

#include <algorithm>
#include <functional>
#include <map>
#include <unordered_map>

#include "edit/fresh_ids.h"
#include "edit/item_lists.h"
#include "edit/openings.h"

namespace rubble::edit {

namespace {

/// Adds what comes in an item's place: itself, others or none.
using Replace = std::function<void(const ItemPtr&, std::vector<ItemPtr>&)>;

ItemList rebuilt(const ItemList& items, const Replace& replace) {
    std::vector<ItemPtr> out;
    out.reserve(items.size());
    for (const ItemPtr& item : items) {
        std::optional<Item> now =
            with_members(*item, [&](const ItemList& members) { return rebuilt(members, replace); });
        replace(now ? ItemPtr(std::move(*now)) : item, out);
    }
    const bool same = std::equal(out.begin(), out.end(), items.begin(), items.end(),
                                 [](auto& a, auto& b) { return a.is(b); });
    return same ? items : items.remade(out);
}

/// Layers and groups with other items in the places of some; parts that stay the same stay shared.
Level rebuilt(const Level& level, const Replace& replace) {
    return with_lists(level, [&](const ItemList& items) { return rebuilt(items, replace); });
}

using Map = std::function<Item(const Item&)>;

/// Items that became others in their places; what a chosen group holds is left to `map`.
ItemList mapped(const ItemList& items, std::span<const ItemId> ids, const Map& map) {
    std::map<size_t, std::vector<ItemId>> chosen; // by the place of what they are, or are in
    for (const ItemId& id : ids)
        if (const size_t place = items.place_of(id); place < items.size()) chosen[place].push_back(id);
    ItemList out = items;
    for (const auto& [place, own] : chosen) {
        const Item& item = *items[place];
        const auto inside = [&](const ItemList& members) { return mapped(members, own, map); };
        const bool itself = std::find(own.begin(), own.end(), item.id) != own.end();
        out.set(place, itself ? map(item) : with_members(item, inside).value_or(item));
    }
    return out;
}

Level mapped(const Level& level, std::span<const ItemId> ids, const Map& map) {
    return with_lists(level, [&](const ItemList& items) { return mapped(items, ids, map); });
}

} // namespace

ItemId fresh_id(const Level& level, const std::string& prefix) { return FreshIds(level).next(prefix); }

Item with_fresh_ids(const Level& level, const Item& item) {
    FreshIds ids(level);
    return ids.with_copied_hosts(ids.copy_of(item));
}

namespace {

/// The layer of items that is nearest to a wanted one, the ones above it first; -1 where all are of tiles.
int nearest_item_layer(const Level& level, int wanted) {
    const int count = int(level.layers.size());
    wanted = std::clamp(wanted, 0, std::max(count - 1, 0));
    for (int i = wanted; i < count; ++i)
        if (!level.layers[size_t(i)]->tiles) return i;
    for (int i = wanted; i-- > 0;)
        if (!level.layers[size_t(i)]->tiles) return i;
    return -1;
}

} // namespace

Level with_item(const Level& level, int layer, Item item) {
    Level out = level;
    int index = nearest_item_layer(level, layer);
    if (index < 0) {
        Layer made;
        made.id = fresh_layer_id(level), made.name = level.layers.empty() ? "Ground" : "Items";
        index = int(out.layers.size());
        out.layers.push_back(std::move(made));
    }
    auto& place = out.layers[size_t(index)];
    Layer copy = *place;
    copy.items.push_back(std::move(item));
    place = std::move(copy);
    return out;
}

Level with_item_after(const Level& level, const ItemId& other, const Item& item) {
    if (!find_item(level, other)) return with_item(level, 0, item);
    return rebuilt(level, [&](const ItemPtr& old, std::vector<ItemPtr>& out) {
        out.push_back(old);
        if (old->id == other) out.push_back(ItemPtr(item));
    });
}

Level with_changed(const Level& level, const Item& item) {
    return mapped(level, {&item.id, 1}, [&](const Item&) { return item; });
}

Level with_all_changed(const Level& level, std::span<const Item> items) {
    std::unordered_map<ItemId, const Item*> now;
    std::vector<ItemId> ids;
    for (const Item& item : items) now[item.id] = &item, ids.push_back(item.id);
    return mapped(level, ids, [&](const Item& old) { return *now.at(old.id); });
}

Level without(const Level& level, std::span<const ItemId> ids) {
    const Chosen chosen(ids);
    Level out = rebuilt(level, [&](const ItemPtr& item, std::vector<ItemPtr>& rest) {
        if (!chosen.has(*item)) rest.push_back(item);
    });
    const auto goes = [&](const ItemId& id) { return std::find(ids.begin(), ids.end(), id) != ids.end(); };
    std::erase_if(out.dimensions,
                  [&](const Dimension& one) { return goes(one.from.item) || goes(one.to.item); });
    return out;
}

namespace {

/// Chosen items swapped with the next one that is not chosen.
ItemList swapped_onward(const ItemList& items, const Chosen& chosen, bool later) {
    ItemList out = items;
    const size_t n = items.size();
    for (size_t step = 1; step < n; ++step) {
        // From the end to which they move, so that a row of chosen ones moves as one.
        const size_t to = later ? n - step : step - 1, from = later ? to - 1 : to + 1;
        if (!chosen.has(*out[from]) || chosen.has(*out[to])) continue;
        const ItemPtr moving = out[from];
        out.set(from, out[to]);
        out.set(to, moving);
    }
    return with_each(out, [&](const Item& item) {
        return with_members(item,
                            [&](const ItemList& members) { return swapped_onward(members, chosen, later); });
    });
}

} // namespace

Level moved_in_order(const Level& level, std::span<const ItemId> ids, bool later) {
    return with_lists(level, [&, chosen = Chosen(ids)](const ItemList& items) {
        return swapped_onward(items, chosen, later);
    });
}

Level transformed(const Level& level, std::span<const ItemId> ids, const Transform& transform) {
    return mapped(level, ids, [&](const Item& item) { return rubble::transformed(item, transform); });
}

Level moved(const Level& level, std::span<const ItemId> ids, const Vec3& by) {
    return transformed(level, ids, Transform::moving(by));
}

Level turned(const Level& level, std::span<const ItemId> ids, const Vec3& about, double deg,
             const Vec3& axis) {
    return transformed(level, ids, Transform::turning(about, deg, axis));
}

Level scaled(const Level& level, std::span<const ItemId> ids, const Vec3& about, double factor) {
    std::vector<ItemId> all(ids.begin(), ids.end());
    for (const ItemId& opening : openings_of(level, ids)) all.push_back(opening);
    return transformed(level, all, Transform::scaling(about, factor));
}

Copies duplicated(const Level& level, std::span<const ItemId> ids, const Vec3& by) {
    FreshIds fresh(level);
    Copies out;
    const std::vector<ItemId> openings = openings_of(level, ids);
    const Chosen chosen(ids), chosen_openings(openings);
    out.level = rebuilt(level, [&](const ItemPtr& item, std::vector<ItemPtr>& list) {
        list.push_back(item);
        if (!chosen.has(*item) && !chosen_openings.has(*item)) return;
        Item copy = transformed(fresh.copy_of(*item), Transform::moving(by));
        out.ids.push_back(copy.id);
        list.push_back(std::move(copy));
    });
    out.level = mapped(out.level, out.ids, [&](const Item& copy) { return fresh.with_copied_hosts(copy); });
    return out;
}

Copies grouped(const Level& level, std::span<const ItemId> ids) {
    const Chosen chosen(ids);
    Group group;
    ItemId last;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items)
            if (chosen.has(*item)) group.items.push_back(item), last = item->id;
    if (group.items.empty()) return {level, {}};
    Item holder{fresh_id(level, "u"), {}, false, group, {}};
    Copies out;
    out.ids = {holder.id};
    out.level = rebuilt(level, [&](const ItemPtr& item, std::vector<ItemPtr>& list) {
        if (item->id == last)
            list.push_back(ItemPtr(holder));
        else if (!chosen.has(*item))
            list.push_back(item);
    });
    return out;
}

Copies ungrouped(const Level& level, std::span<const ItemId> ids) {
    const Chosen chosen(ids);
    Copies out;
    out.level = rebuilt(level, [&](const ItemPtr& item, std::vector<ItemPtr>& list) {
        const Group* group = item->group();
        if (!group || !chosen.has(*item)) {
            list.push_back(item);
            return;
        }
        for (const ItemPtr& member : group->items) {
            out.ids.push_back(member->id);
            list.push_back(member);
        }
    });
    return out;
}

Level with_claim(const Level& level, Claim claim) {
    Level out = level;
    for (Claim& old : out.claims)
        if (old.id == claim.id) {
            old = std::move(claim);
            return out;
        }
    out.claims.push_back(std::move(claim));
    return out;
}

Level without_claim(const Level& level, const ClaimId& id) {
    Level out = level;
    std::erase_if(out.claims, [&](const Claim& claim) { return claim.id == id; });
    return out;
}

Level with_layer(const Level& level, const Layer& layer) {
    Level out = level;
    for (auto& old : out.layers)
        if (old->id == layer.id) {
            old = layer;
            return out;
        }
    out.layers.push_back(layer);
    return out;
}

ClaimId fresh_claim_id(const Level& level) {
    for (int n = 1;; ++n) {
        const ClaimId id{"c" + std::to_string(n)};
        if (std::none_of(level.claims.begin(), level.claims.end(), [&](auto& c) { return c.id == id; }))
            return id;
    }
}

LayerId fresh_layer_id(const Level& level) {
    for (int n = 1;; ++n) {
        const LayerId id{"l" + std::to_string(n)};
        if (std::none_of(level.layers.begin(), level.layers.end(), [&](auto& l) { return l->id == id; }))
            return id;
    }
}

} // namespace rubble::edit
