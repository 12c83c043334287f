#include "level/dimension.h"

#include "level/brush_shape.h"
#include "level/level.h"

namespace rubble {

bool place_of(const Level& level, const DimensionEnd& end, Vec3& place) {
    place = end.place;
    if (end.item.empty()) return true;
    const Item* item = find_item(level, end.item);
    if (item && item->element()) {
        place = item->element()->at;
        return true;
    }
    if (!item || !item->brush()) return false;
    const Box3 box = own_box(*item->brush());
    place = item->brush()->place.to_level(box.low + end.place * (box.high - box.low));
    return true;
}

DimensionEnd end_at(const Level& level, const ItemId& id, const Vec3& place) {
    const Item* item = find_item(level, id);
    if (item && item->element()) return {id, {}};
    if (!item || !item->brush()) return {{}, place};
    const Box3 box = own_box(*item->brush());
    return {id, (item->brush()->place.to_own(place) - box.low) / (box.high - box.low)};
}

} // namespace rubble
