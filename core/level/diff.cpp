#include "level/diff.h"

#include <unordered_map>

namespace rubble {

namespace {

struct Place {
    const Item* item;
    size_t index;
};

std::unordered_map<ItemId, Place> places_of(const Level& level) {
    std::unordered_map<ItemId, Place> places;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items) places[item->id] = {item.get(), places.size()};
    return places;
}

} // namespace

Diff difference(const Level& before, const Level& after) {
    Diff diff;
    const auto old_places = places_of(before), new_places = places_of(after);
    for (const auto& [id, place] : new_places) {
        const auto old = old_places.find(id);
        if (old == old_places.end()) {
            diff.added.insert(id);
            continue;
        }
        if (old->second.item != place.item && !(*old->second.item == *place.item)) diff.changed.insert(id);
        if (old->second.index != place.index) diff.order = true;
    }
    for (const auto& [id, place] : old_places)
        if (!new_places.contains(id)) diff.removed.insert(id);
    diff.claims = before.claims != after.claims || before.name != after.name ||
                  before.character != after.character || before.characters != after.characters;
    return diff;
}

} // namespace rubble
