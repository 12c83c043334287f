#include "edit/layers.h"

#include <algorithm>
#include <set>

#include "edit/item_lists.h"
#include "edit/items.h"

namespace rubble::edit {

namespace {

/// The layer and those in it.
std::set<LayerId> family_of(const Level& level, const LayerId& layer) {
    std::set<LayerId> out{layer};
    for (size_t before = 0; before != out.size();) {
        before = out.size();
        for (const auto& one : level.layers)
            if (out.contains(one->parent)) out.insert(one->id);
    }
    return out;
}

const Layer* find_layer(const Level& level, const LayerId& id) {
    for (const auto& layer : level.layers)
        if (layer->id == id) return layer.get();
    return nullptr;
}

void collect(const ItemList& items, const Chosen& chosen, std::vector<ItemPtr>& out) {
    for (const ItemPtr& item : items)
        if (chosen.has(*item))
            out.push_back(item);
        else if (const ItemList* members = members_of(*item))
            collect(*members, chosen, out);
}

/// Whether it, or something in it, is chosen.
bool holds_chosen(const Item& item, const Chosen& chosen) {
    if (chosen.has(item)) return true;
    const ItemList* members = members_of(item);
    return members && std::any_of(members->begin(), members->end(),
                                  [&](const ItemPtr& member) { return holds_chosen(*member, chosen); });
}

/// Items hidden or shown as `hidden` says of each, and what groups hold too, where it says so of them.
ItemList with_hidden(const ItemList& items, const std::function<bool(const Item&)>& hidden,
                     const std::function<bool(const Item&)>& enter) {
    return with_each(items, [&](const Item& item) {
        std::optional<Item> now;
        if (enter(item))
            now = with_members(item,
                               [&](const ItemList& members) { return with_hidden(members, hidden, enter); });
        if (item.hidden == hidden(item)) return now;
        if (!now) now = item;
        now->hidden = !item.hidden;
        return now;
    });
}

Level with_layers(const Level& level, const std::function<void(Layer&)>& change) {
    Level out = level;
    for (auto& layer : out.layers) {
        Layer copy = *layer;
        change(copy);
        if (!(copy == *layer)) layer = std::move(copy);
    }
    return out;
}

} // namespace

Level sent_to_layer(const Level& level, std::span<const ItemId> ids, const LayerId& to) {
    const Layer* wanted = find_layer(level, to);
    if (!wanted || wanted->tiles) return level; // a layer of tiles holds no items
    std::vector<ItemPtr> sent;
    for (const auto& layer : level.layers) collect(layer->items, Chosen(ids), sent);
    const Level rest = without(level, ids);
    return with_layers(rest, [&](Layer& layer) {
        if (layer.id != to) return;
        for (ItemPtr& item : sent) layer.items.push_back(std::move(item));
    });
}

Level with_layer_alone(const Level& level, const LayerId& alone) {
    std::set<LayerId> shown = family_of(level, alone);
    for (const Layer* at = find_layer(level, alone); at; at = find_layer(level, at->parent)) {
        if (at->id != alone && shown.contains(at->id)) break; // parents that go round
        shown.insert(at->id);
        if (at->parent.empty()) break;
    }
    return with_layers(level, [&](Layer& layer) { layer.hidden = !shown.contains(layer.id); });
}

Level with_all_shown(const Level& level) {
    return with_layers(level, [](Layer& layer) {
        layer.hidden = false;
        layer.items = with_hidden(
            layer.items, [](const Item&) { return false; }, [](const Item&) { return true; });
    });
}

LayerCopy layer_duplicated(const Level& level, const LayerId& id, const Vec3& by) {
    const std::set<LayerId> family = family_of(level, id);
    if (!find_layer(level, id)) return {level, {}};
    LayerCopy out{level, {}};
    std::map<LayerId, LayerId> copy_of;
    std::vector<ItemId> ids;
    // The items as copies beside their originals first, so that references among them follow.
    for (const auto& layer : level.layers)
        if (family.contains(layer->id))
            for (const ItemPtr& item : layer->items) ids.push_back(item->id);
    const Copies copies = duplicated(level, ids, by);
    const std::set<ItemId> copied(copies.ids.begin(), copies.ids.end());
    std::vector<Shared<Layer>> layers, made;
    for (const auto& layer : copies.level.layers) {
        if (!family.contains(layer->id)) {
            layers.push_back(layer);
            continue;
        }
        Layer own = *layer, copy = *layer;
        own.items = {}, copy.items = {};
        for (const ItemPtr& item : layer->items)
            (copied.contains(item->id) ? copy : own).items.push_back(item);
        copy.id = fresh_layer_id(out.level);
        copy_of[layer->id] = copy.id;
        out.level = with_layer(out.level, copy); // takes the id
        layers.push_back(std::move(own));
        made.push_back(std::move(copy));
    }
    size_t last = 0;
    for (size_t i = 0; i < layers.size(); ++i)
        if (family.contains(layers[i]->id)) last = i + 1;
    for (auto& layer : made) {
        Layer copy = *layer;
        if (const auto parent = copy_of.find(copy.parent); parent != copy_of.end())
            copy.parent = parent->second;
        layer = std::move(copy);
    }
    layers.insert(layers.begin() + long(last), made.begin(), made.end());
    out.level.layers = std::move(layers);
    out.id = copy_of[id];
    return out;
}

Level without_layer(const Level& level, const LayerId& id) {
    const std::set<LayerId> family = family_of(level, id);
    Level out = level;
    std::erase_if(out.layers, [&](const auto& layer) { return family.contains(layer->id); });
    return out;
}

Level with_only_shown(const Level& level, std::span<const ItemId> ids) {
    const Chosen chosen(ids);
    return with_layers(level, [&](Layer& layer) {
        const auto holds = [&](const ItemPtr& item) { return holds_chosen(*item, chosen); };
        if (std::any_of(layer.items.begin(), layer.items.end(), holds)) layer.hidden = false;
        layer.items = with_hidden(
            layer.items, [&](const Item& item) { return !holds_chosen(item, chosen); },
            [&](const Item& item) { return !chosen.has(item); });
    });
}

} // namespace rubble::edit
