#include "edit/clipboard.h"

#include <algorithm>
#include <map>

namespace rubble::edit {

Clip copied(const Level& level, std::span<const ItemId> ids) {
    Clip clip;
    Box3 box;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items)
            if (std::find(ids.begin(), ids.end(), item->id) != ids.end()) {
                clip.items.push_back(item);
                box.add(box_of(*item));
            }
    if (!box.empty()) clip.anchor = {box.middle().x, box.middle().y, box.low.z};
    return clip;
}

Copies pasted(const Level& level, int layer, const Clip& clip, const Vec3& at) {
    Copies out{level, {}};
    std::map<ItemId, ItemId> copies;
    for (const ItemPtr& item : clip.items) {
        Item copy = moved(with_fresh_ids(out.level, *item), at - clip.anchor);
        out.ids.push_back(copy.id);
        copies[item->id] = copy.id;
        if (Brush* brush = std::get_if<Brush>(&copy.body); brush && !brush->host.empty()) {
            // An opening pasted without its wall is a cut like any other.
            const auto host = copies.find(brush->host);
            brush->host = host == copies.end() ? ItemId{} : host->second;
        }
        out.level = with_item(out.level, layer, std::move(copy));
    }
    return out;
}

} // namespace rubble::edit
