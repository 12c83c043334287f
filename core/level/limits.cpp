#include "level/limits.h"

#include <unordered_set>

namespace rubble {

namespace {

std::optional<Unkept> unkept(const Level& before, const Item& item, int depth) {
    const Item* old = find_item(before, item.id);
    if (const std::string key = problem_of(item, old); !key.empty()) return Unkept{item.id, key};
    const ItemList* members = members_of(item);
    if (!members) return {};
    if (depth >= deepest_group) return Unkept{item.id, "items"};
    for (const ItemPtr& member : *members)
        if (auto found = unkept(before, *member, depth + 1)) return found;
    return {};
}

} // namespace

std::optional<Unkept> unkept_item(const Level& before, const Level& after) {
    for (size_t l = 0; l < after.layers.size(); ++l) {
        const ItemList& items = after.layers[l]->items;
        const ItemList* old = l < before.layers.size() ? &before.layers[l]->items : nullptr;
        if (old && old->size() == items.size()) {
            for (size_t i = items.next_not_shared(*old, 0); i < items.size();
                 i = items.next_not_shared(*old, i + 1))
                if (auto found = (*old)[i].is(items[i]) ? std::nullopt : unkept(before, *items[i], 0))
                    return found;
            continue;
        }
        std::unordered_set<const Item*> shared;
        if (old)
            for (const ItemPtr& item : *old) shared.insert(item.get());
        for (const ItemPtr& item : items)
            if (auto found = shared.contains(item.get()) ? std::nullopt : unkept(before, *item, 0))
                return found;
    }
    return {};
}

} // namespace rubble
