#include "level/order.h"

#include "level/item_search.h"

namespace rubble {

namespace {

void collect(const ItemList& items, int layer, bool in_group, std::vector<OrderedBrush>& out) {
    const size_t first = out.size();
    for (const ItemPtr& item : items) {
        if (const Brush* brush = item->brush()) {
            out.push_back({item.get(), brush, layer});
            if (!in_group || !brush->within_group || brush->effect != Effect::cut) continue;
            out.back().is_group_cut = true;
            for (size_t i = first; i + 1 < out.size(); ++i)
                if (out[i].brush->effect == Effect::fill) out[i].group_cuts.push_back(brush);
        }
        if (const ItemList* members = members_of(*item)) collect(*members, layer, true, out);
    }
}

/// Adds what changed; false where brushes came, went or changed places.
bool compare(const ItemList& before, const ItemList& after, std::vector<const Item*>& changed) {
    if (before.size() != after.size()) return false;
    for (size_t i = after.next_not_shared(before, 0); i < after.size();
         i = after.next_not_shared(before, i + 1)) {
        if (before[i].is(after[i])) continue;
        const Item &old = *before[i], &now = *after[i];
        if (old.body.index() != now.body.index()) return false;
        if (const ItemList* members = members_of(now)) {
            if (!compare(*members_of(old), *members, changed)) return false;
        } else if (now.brush()) {
            if (old.id != now.id) return false;
            changed.push_back(&now);
        }
    }
    return true;
}

} // namespace

std::optional<std::vector<const Item*>> brushes_changed_in_place(const std::vector<Shared<Layer>>& before,
                                                                 const std::vector<Shared<Layer>>& after) {
    if (before.size() != after.size()) return {};
    std::vector<const Item*> changed;
    for (size_t i = 0; i < after.size(); ++i)
        if (!before[i].is(after[i]) && !compare(before[i]->items, after[i]->items, changed)) return {};
    return changed;
}

std::vector<OrderedBrush> ordered_brushes(const Level& level) {
    std::vector<OrderedBrush> out;
    for (size_t i = 0; i < level.layers.size(); ++i) collect(level.layers[i]->items, int(i), false, out);
    return out;
}

std::vector<const Item*> elements_of(const Level& level) {
    std::vector<const Item*> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (item.element()) out.push_back(&item);
    });
    return out;
}

std::vector<const Item*> elements_of(const Level& level, Role role) {
    std::vector<const Item*> out = elements_of(level);
    std::erase_if(out, [&](const Item* item) { return role_of(*item->element()) != role; });
    return out;
}

std::vector<const Item*> seen_elements_of(const Level& level) {
    std::vector<const Item*> out;
    const std::function<void(const ItemList&)> look = [&](const ItemList& items) {
        for (const ItemPtr& item : items) {
            if (item->hidden) continue;
            if (item->element()) out.push_back(item.get());
            if (const ItemList* members = members_of(*item)) look(*members);
        }
    };
    for (const auto& layer : level.layers)
        if (!is_hidden(level, *layer)) look(layer->items);
    return out;
}

} // namespace rubble
