#include "level/order.h"

namespace rubble {

namespace {

void collect(const std::vector<ItemPtr>& items, int layer, std::vector<OrderedBrush>& out) {
    for (const ItemPtr& item : items) {
        if (const Brush* brush = item->brush()) out.push_back({item.get(), brush, layer});
        if (const Group* group = item->group()) collect(group->items, layer, out);
    }
}

} // namespace

std::vector<OrderedBrush> ordered_brushes(const Level& level) {
    std::vector<OrderedBrush> out;
    for (size_t i = 0; i < level.layers.size(); ++i) collect(level.layers[i]->items, int(i), out);
    return out;
}

std::vector<const Item*> elements_of(const Level& level, const std::string& kind) {
    std::vector<const Item*> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (const Element* element = item.element(); element && (kind.empty() || element->kind == kind))
            out.push_back(&item);
    });
    return out;
}

} // namespace rubble
