#include "edit/clipboard.h"

#include "edit/fresh_ids.h"
#include "edit/item_lists.h"

namespace rubble::edit {

Clip copied(const Level& level, std::span<const ItemId> ids) {
    const Chosen chosen(ids);
    Clip clip;
    Box3 box;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items)
            if (chosen.has(*item)) {
                clip.items.push_back(item);
                box.add(box_of(*item));
            }
    if (!box.empty()) clip.anchor = {box.middle().x, box.middle().y, box.low.z};
    return clip;
}

namespace {

/// An opening pasted without its wall is a cut like any other.
Item without_lost_hosts(const Item& item, const FreshIds& fresh) {
    Item out = with_each_member(item, [&](const Item& member) { return without_lost_hosts(member, fresh); });
    for_each_reference(out, [&](ItemId& id) {
        if (!fresh.has_copied(id)) id = {};
    });
    return out;
}

} // namespace

Copies pasted(const Level& level, int layer, const Clip& clip, const Vec3& at) {
    FreshIds fresh(level);
    std::vector<Item> copies;
    for (const ItemPtr& item : clip.items) copies.push_back(fresh.copy_of(*item));
    Copies out{level, {}};
    for (size_t i = 0; i < copies.size(); ++i) {
        out.ids.push_back(copies[i].id);
        const Item own = fresh.with_copied_hosts(without_lost_hosts(copies[i], fresh));
        out.level = with_item(out.level, layer, transformed(own, Transform::moving(at - clip.anchor)));
    }
    return out;
}

} // namespace rubble::edit
