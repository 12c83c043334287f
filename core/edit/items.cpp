#include "edit/items.h"

#include <algorithm>
#include <functional>
#include <map>
#include <set>

#include "edit/openings.h"

namespace rubble::edit {

namespace {

/// Layers and groups rebuilt with every item replaced by what `change` yields (nothing, one or several);
/// parts that stay the same stay shared.
using Change = std::function<std::vector<ItemPtr>(const ItemPtr&)>;

std::vector<ItemPtr> rebuilt(const std::vector<ItemPtr>& items, const Change& change) {
    std::vector<ItemPtr> out;
    out.reserve(items.size());
    for (const ItemPtr& item : items) {
        ItemPtr now = item;
        if (const Group* group = item->group()) {
            std::vector<ItemPtr> members = rebuilt(group->items, change);
            const bool same = std::equal(members.begin(), members.end(), group->items.begin(),
                                         group->items.end(), [](auto& a, auto& b) { return a.is(b); });
            if (!same) {
                Item copy = *item;
                copy.body = Group{std::move(members)};
                now = std::move(copy);
            }
        }
        for (ItemPtr& next : change(now)) out.push_back(std::move(next));
    }
    return out;
}

Level rebuilt(const Level& level, const Change& change) {
    Level out = level;
    for (auto& layer : out.layers) {
        std::vector<ItemPtr> items = rebuilt(layer->items, change);
        const bool same = std::equal(items.begin(), items.end(), layer->items.begin(), layer->items.end(),
                                     [](auto& a, auto& b) { return a.is(b); });
        if (same) continue;
        Layer copy = *layer;
        copy.items = std::move(items);
        layer = std::move(copy);
    }
    return out;
}

bool has(std::span<const ItemId> ids, const ItemId& id) {
    return std::find(ids.begin(), ids.end(), id) != ids.end();
}

/// Hands out ids that are free in a level, each once.
class Ids {
public:
    explicit Ids(const Level& level) {
        for_each_item(level, [&](const Item& item, const Layer&) { taken_.insert(item.id.value); });
    }
    ItemId next(const std::string& prefix) {
        for (size_t n = taken_.size() / 2 + 1;; ++n)
            if (taken_.insert(prefix + std::to_string(n)).second) return {prefix + std::to_string(n)};
    }

    /// Remembers which copy an item has, so that references among the copies can point to the copies.
    void note(const ItemId& item, const ItemId& copy) { copies_[item] = copy; }
    const ItemId* copy_of(const ItemId& item) const {
        const auto found = copies_.find(item);
        return found == copies_.end() ? nullptr : &found->second;
    }

private:
    std::set<std::string> taken_;
    std::map<ItemId, ItemId> copies_;
};

std::string prefix_of(const Item& item) {
    if (item.brush()) return "b";
    if (item.group()) return "u";
    return "e";
}

Item with_fresh_ids(const Item& item, Ids& ids) {
    Item copy = item;
    copy.id = ids.next(prefix_of(item));
    ids.note(item.id, copy.id);
    if (const Group* group = item.group()) {
        Group members;
        for (const ItemPtr& member : group->items) members.items.push_back(with_fresh_ids(*member, ids));
        copy.body = std::move(members);
    }
    return copy;
}

/// A copied opening belongs to the copy of its wall, or, where that was not copied, to the same wall.
Item with_copied_host(Item item, const Ids& ids) {
    if (Brush* brush = std::get_if<Brush>(&item.body))
        if (const ItemId* host = ids.copy_of(brush->host)) brush->host = *host;
    return item;
}

Item mapped_members(const Item& item, const std::function<Item(const Item&)>& map) {
    Item copy = item;
    if (const Group* group = item.group()) {
        Group members;
        for (const ItemPtr& member : group->items) members.items.push_back(map(*member));
        copy.body = std::move(members);
    }
    return copy;
}

} // namespace

ItemId fresh_id(const Level& level, const std::string& prefix) { return Ids(level).next(prefix); }

Item with_fresh_ids(const Level& level, const Item& item) {
    Ids ids(level);
    return with_fresh_ids(item, ids);
}

Level with_item(const Level& level, int layer, Item item) {
    Level out = level;
    if (out.layers.empty()) {
        Layer ground;
        ground.id = {"l1"}, ground.name = "Ground";
        out.layers.push_back(std::move(ground));
    }
    auto& place = out.layers[size_t(std::clamp(layer, 0, int(out.layers.size()) - 1))];
    Layer copy = *place;
    copy.items.push_back(std::move(item));
    place = std::move(copy);
    return out;
}

Level with_item_after(const Level& level, const ItemId& other, const Item& item) {
    if (!find_item(level, other)) return with_item(level, 0, item);
    return rebuilt(level, [&](const ItemPtr& old) {
        std::vector<ItemPtr> out{old};
        if (old->id == other) out.push_back(ItemPtr(item));
        return out;
    });
}

Level with_changed(const Level& level, const Item& item) {
    return rebuilt(level, [&](const ItemPtr& old) {
        return std::vector<ItemPtr>{old->id == item.id ? ItemPtr(item) : old};
    });
}

Level without(const Level& level, std::span<const ItemId> ids) {
    Level out = rebuilt(level, [&](const ItemPtr& item) {
        return has(ids, item->id) ? std::vector<ItemPtr>{} : std::vector<ItemPtr>{item};
    });
    std::erase_if(out.dimensions,
                  [&](const Dimension& one) { return has(ids, one.from.item) || has(ids, one.to.item); });
    return out;
}

Item moved(const Item& item, const Vec3& by) {
    Item copy = mapped_members(item, [&](const Item& member) { return moved(member, by); });
    if (Brush* brush = std::get_if<Brush>(&copy.body)) brush->place.at += by;
    if (Element* element = std::get_if<Element>(&copy.body)) element->at += by;
    return copy;
}

Item turned(const Item& item, const Vec3& about, double deg) {
    const auto [c, s] = cos_sin(deg);
    auto around = [&](const Vec3& p) {
        const Vec3 d = p - about;
        return about + Vec3(d.x * c - d.y * s, d.x * s + d.y * c, d.z);
    };
    Item copy = mapped_members(item, [&](const Item& member) { return turned(member, about, deg); });
    if (Brush* brush = std::get_if<Brush>(&copy.body)) {
        brush->place.at = around(brush->place.at);
        if (brush->place.rotation) {
            const auto [x, y, z, w] = *brush->place.rotation;
            const double hs = std::sin(radians(deg) / 2), hc = std::cos(radians(deg) / 2);
            brush->place.rotation =
                Rotation{hc * x - hs * y, hc * y + hs * x, hc * z + hs * w, hc * w - hs * z};
        } else {
            brush->place.turn_deg = std::remainder(brush->place.turn_deg + deg, 360.0);
        }
    }
    if (Element* element = std::get_if<Element>(&copy.body)) {
        element->at = around(element->at);
        element->facing_deg = std::remainder(element->facing_deg + deg, 360.0);
    }
    return copy;
}

namespace {

/// Applies `map` to the chosen items; a group that is chosen takes its members along.
Level mapped(const Level& level, std::span<const ItemId> ids, const std::function<Item(const Item&)>& map) {
    // Members of a chosen group are mapped with it and must not be mapped twice.
    std::set<ItemId> inside;
    std::function<void(const Item&, bool)> mark = [&](const Item& item, bool in) {
        if (in) inside.insert(item.id);
        if (const Group* group = item.group())
            for (const ItemPtr& member : group->items) mark(*member, in || has(ids, item.id));
    };
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items) mark(*item, false);
    return rebuilt(level, [&](const ItemPtr& item) {
        const bool chosen = has(ids, item->id) && !inside.contains(item->id);
        return std::vector<ItemPtr>{chosen ? ItemPtr(map(*item)) : item};
    });
}

} // namespace

namespace {

/// Chosen items swapped with the next one that is not chosen; true where any was.
bool swap_onward(std::vector<ItemPtr>& items, std::span<const ItemId> ids, bool later) {
    bool any = false;
    const size_t n = items.size();
    for (size_t step = 1; step < n; ++step) {
        // From the end to which they move, so that a row of chosen ones moves as one.
        const size_t to = later ? n - step : step - 1, from = later ? to - 1 : to + 1;
        if (!has(ids, items[from]->id) || has(ids, items[to]->id)) continue;
        std::swap(items[from], items[to]);
        any = true;
    }
    for (ItemPtr& item : items) {
        if (!item->group()) continue;
        Item copy = *item;
        if (swap_onward(std::get<Group>(copy.body).items, ids, later)) item = std::move(copy), any = true;
    }
    return any;
}

} // namespace

Level moved_in_order(const Level& level, std::span<const ItemId> ids, bool later) {
    Level out = level;
    for (auto& layer : out.layers) {
        Layer copy = *layer;
        if (swap_onward(copy.items, ids, later)) layer = std::move(copy);
    }
    return out;
}

Level moved(const Level& level, std::span<const ItemId> ids, const Vec3& by) {
    return mapped(level, ids, [&](const Item& item) { return moved(item, by); });
}

Level turned(const Level& level, std::span<const ItemId> ids, const Vec3& about, double deg) {
    return mapped(level, ids, [&](const Item& item) { return turned(item, about, deg); });
}

Copies duplicated(const Level& level, std::span<const ItemId> ids, const Vec3& by) {
    Ids fresh(level);
    Copies out;
    const std::vector<ItemId> openings = openings_of(level, ids);
    out.level = rebuilt(level, [&](const ItemPtr& item) {
        std::vector<ItemPtr> result{item};
        if (has(ids, item->id) || has(openings, item->id)) {
            Item copy = moved(with_fresh_ids(*item, fresh), by);
            out.ids.push_back(copy.id);
            result.push_back(std::move(copy));
        }
        return result;
    });
    out.level = rebuilt(out.level, [&](const ItemPtr& item) {
        const bool copied_opening =
            item->brush() && has(out.ids, item->id) && fresh.copy_of(item->brush()->host);
        return std::vector<ItemPtr>{copied_opening ? ItemPtr(with_copied_host(*item, fresh)) : item};
    });
    return out;
}

Copies grouped(const Level& level, std::span<const ItemId> ids) {
    Group group;
    ItemId last;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items)
            if (has(ids, item->id)) group.items.push_back(item), last = item->id;
    if (group.items.empty()) return {level, {}};
    Item holder{fresh_id(level, "u"), {}, false, group, {}};
    Copies out;
    out.ids = {holder.id};
    out.level = rebuilt(level, [&](const ItemPtr& item) -> std::vector<ItemPtr> {
        if (item->id == last) return {ItemPtr(holder)};
        if (has(ids, item->id)) return {};
        return {item};
    });
    return out;
}

Copies ungrouped(const Level& level, std::span<const ItemId> ids) {
    Copies out;
    out.level = rebuilt(level, [&](const ItemPtr& item) {
        const Group* group = item->group();
        if (!group || !has(ids, item->id)) return std::vector<ItemPtr>{item};
        for (const ItemPtr& member : group->items) out.ids.push_back(member->id);
        return group->items;
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
