#include "level/diff.h"

#include <algorithm>
#include <unordered_map>

namespace rubble {

namespace {

/// An item, and the layer or group that holds it.
struct Placed {
    const Item* item;
    const std::string* holder;
};

/// Items at any depth, in the order of storing.
struct Listed {
    std::vector<Placed> items;
    std::unordered_map<ItemId, size_t> index;

    void add(const ItemList& list, const std::string& holder) {
        for (const ItemPtr& item : list) {
            index[item->id] = items.size();
            items.push_back({item.get(), &holder});
            if (const ItemList* members = members_of(*item)) add(*members, item->id.value);
        }
    }
};

/// Layers that both levels share hold nothing that differs.
Listed listed(const Level& level, const std::unordered_set<const Layer*>& shared) {
    Listed out;
    for (const auto& layer : level.layers)
        if (!shared.contains(layer.get())) out.add(layer->items, layer->id.value);
    return out;
}

std::unordered_set<const Layer*> shared_layers(const Level& a, const Level& b) {
    std::unordered_set<const Layer*> of_a, both;
    for (const auto& layer : a.layers) of_a.insert(layer.get());
    for (const auto& layer : b.layers)
        if (of_a.contains(layer.get())) both.insert(layer.get());
    return both;
}

/// The same in what is its own.
bool alike(const Item& a, const Item& b) {
    if (&a == &b) return true;
    if (!members_of(a) || !members_of(b)) return a == b;
    return with_members(a, {}) == with_members(b, {});
}

/// Whether the items that both have come one after the other in the same way, held by the same.
bool in_same_order(const Listed& before, const Listed& after) {
    size_t last = 0;
    for (const Placed& now : after.items) {
        const auto was = before.index.find(now.item->id);
        if (was == before.index.end()) continue;
        if (was->second < last || *before.items[was->second].holder != *now.holder) return false;
        last = was->second;
    }
    return true;
}

bool layers_differ(const Level& before, const Level& after) {
    const auto own = [](const Shared<Layer>& layer) {
        Layer bare = *layer;
        bare.items = {};
        if (bare.tiles) {
            TileLayer unpainted = **bare.tiles;
            unpainted.grid = {};
            bare.tiles = Shared<TileLayer>(std::move(unpainted));
        }
        return bare;
    };
    return !std::equal(before.layers.begin(), before.layers.end(), after.layers.begin(), after.layers.end(),
                       [&](const auto& a, const auto& b) { return a.is(b) || own(a) == own(b); });
}

/// The layers of tiles that both have, with other cells.
std::set<LayerId> painted_layers(const Level& before, const Level& after) {
    std::set<LayerId> out;
    for (const auto& was : before.layers)
        for (const auto& now : after.layers)
            if (was->id == now->id && was->tiles && now->tiles && !was.is(now) &&
                !((*was->tiles)->grid == (*now->tiles)->grid))
                out.insert(now->id);
    return out;
}

/// The ids of those that came, went or changed.
template <class IdOf, class Thing>
std::set<IdOf> changed_ids(const std::vector<Thing>& before, const std::vector<Thing>& after) {
    std::set<IdOf> out;
    const auto differs_in = [&](const std::vector<Thing>& a, const std::vector<Thing>& b) {
        for (const Thing& one : a)
            if (std::find(b.begin(), b.end(), one) == b.end()) out.insert(one.id);
    };
    differs_in(before, after), differs_in(after, before);
    return out;
}

} // namespace

Diff difference(const Level& before, const Level& after) {
    Diff diff;
    const auto shared = shared_layers(before, after);
    const Listed old = listed(before, shared), now = listed(after, shared);
    for (const Placed& placed : now.items) {
        const auto was = old.index.find(placed.item->id);
        if (was == old.index.end())
            diff.added.insert(placed.item->id);
        else if (!alike(*old.items[was->second].item, *placed.item))
            diff.changed.insert(placed.item->id);
    }
    for (const Placed& placed : old.items)
        if (!now.index.contains(placed.item->id)) diff.removed.insert(placed.item->id);
    diff.order = !in_same_order(old, now);
    diff.layers = layers_differ(before, after);
    diff.painted = painted_layers(before, after);
    diff.claims = before.claims != after.claims;
    diff.excuses = before.excuses != after.excuses;
    diff.links = before.links != after.links;
    diff.dimensions = before.dimensions != after.dimensions;
    diff.underlays = before.underlays != after.underlays;
    diff.values = before.name != after.name || before.frame != after.frame || before.walked != after.walked ||
                  before.character != after.character || before.characters != after.characters ||
                  before.extra != after.extra;
    return diff;
}

ProjectDiff difference(const Project& before, const Project& after) {
    ProjectDiff diff;
    diff.characters = changed_ids<CharacterId>(before.characters, after.characters);
    diff.materials = changed_ids<MaterialId>(before.materials, after.materials);
    diff.grid = before.grid_m != after.grid_m || before.module_m != after.module_m ||
                before.turn_step_deg != after.turn_step_deg;
    diff.measures = !(before.measures == after.measures);
    diff.grades = before.easy_pct != after.easy_pct || before.fair_pct != after.fair_pct;
    diff.tiles = before.pixels_per_m != after.pixels_per_m || before.sheets != after.sheets ||
                 before.scheme != after.scheme;
    diff.kits = before.kits != after.kits || before.assemblies != after.assemblies;
    diff.values = before.name != after.name || before.extra != after.extra;
    return diff;
}

} // namespace rubble
