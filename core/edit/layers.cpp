#include "edit/layers.h"

#include <algorithm>
#include <set>

#include "edit/items.h"

namespace rubble::edit {

namespace {

bool has(std::span<const ItemId> ids, const ItemId& id) {
    return std::find(ids.begin(), ids.end(), id) != ids.end();
}

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

void collect(const std::vector<ItemPtr>& items, std::span<const ItemId> ids, std::vector<ItemPtr>& out) {
    for (const ItemPtr& item : items)
        if (has(ids, item->id))
            out.push_back(item);
        else if (const Group* group = item->group())
            collect(group->items, ids, out);
}

/// The item with its `hidden` set so that only what is chosen is seen; true where something in it is.
bool show_only(ItemPtr& item, std::span<const ItemId> ids) {
    const bool chosen = has(ids, item->id);
    bool within = false;
    Item copy = *item;
    if (Group* group = std::get_if<Group>(&copy.body); group && !chosen)
        for (ItemPtr& member : group->items) within |= show_only(member, ids);
    copy.hidden = !chosen && !within;
    if (!(copy == *item)) item = std::move(copy);
    return chosen || within;
}

void show_all(ItemPtr& item) {
    Item copy = *item;
    copy.hidden = false;
    if (Group* group = std::get_if<Group>(&copy.body))
        for (ItemPtr& member : group->items) show_all(member);
    if (!(copy == *item)) item = std::move(copy);
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
    if (!find_layer(level, to)) return level;
    std::vector<ItemPtr> sent;
    for (const auto& layer : level.layers) collect(layer->items, ids, sent);
    const Level rest = without(level, ids);
    return with_layers(rest, [&](Layer& layer) {
        if (layer.id == to) layer.items.insert(layer.items.end(), sent.begin(), sent.end());
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
        for (ItemPtr& item : layer.items) show_all(item);
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
        std::erase_if(own.items, [&](const ItemPtr& item) { return copied.contains(item->id); });
        std::erase_if(copy.items, [&](const ItemPtr& item) { return !copied.contains(item->id); });
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
    return with_layers(level, [&](Layer& layer) {
        bool any = false;
        for (ItemPtr& item : layer.items) any |= show_only(item, ids);
        if (any) layer.hidden = false;
    });
}

} // namespace rubble::edit
