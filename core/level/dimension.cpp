#include "level/dimension.h"

#include "level/level.h"

namespace rubble {

bool place_of(const Level& level, const DimensionEnd& end, Vec3& place) {
    place = end.place;
    if (end.item.empty()) return true;
    const Item* item = find_item(level, end.item);
    const auto found = item ? place_of_part(*item, end.place) : std::nullopt;
    if (found) place = *found;
    return found.has_value();
}

DimensionEnd end_at(const Level& level, const ItemId& id, const Vec3& place) {
    const Item* item = find_item(level, id);
    const auto part = item ? part_at(*item, place) : std::nullopt;
    return part ? DimensionEnd{id, *part} : DimensionEnd{{}, place};
}

} // namespace rubble
