#include "level/limits.h"

#include <cmath>
#include <unordered_set>

#include "level/brush_shape.h"

namespace rubble {

namespace {

/// What only differs in its place needs no look at its body.
std::string problem_of_change(const Brush& brush, const Brush* before) {
    if (before) {
        Brush there = brush;
        there.place = before->place;
        if (there == *before) {
            Brush plain; // whose size is sound
            plain.place = brush.place;
            return problem_of(plain);
        }
    }
    return problem_of(brush);
}

std::optional<Unkept> unkept(const Level& before, const Item& item, int depth) {
    const Item* old = find_item(before, item.id);
    if (const Brush* brush = item.brush())
        if (const std::string key = problem_of_change(*brush, old ? old->brush() : nullptr); !key.empty())
            return Unkept{item.id, key};
    if (const Element* element = item.element())
        if (const std::string key = problem_of(*element); !key.empty()) return Unkept{item.id, key};
    const Group* group = item.group();
    if (!group) return {};
    if (depth >= deepest_group) return Unkept{item.id, "items"};
    for (const ItemPtr& member : group->items)
        if (auto found = unkept(before, *member, depth + 1)) return found;
    return {};
}

} // namespace

std::string problem_of(const Element& element) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(element.at[axis]) <= geometry::farthest_m)) return "at";
    return {};
}

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
