#include "level/group.h"

#include "level/item.h"

namespace rubble {

bool Group::operator==(const Group& other) const { return items == other.items; }

const char* type_key(const Group&) { return "group"; }
const char* id_prefix(const Group&) { return "u"; }
std::string kind_word(const Group&) { return "group"; }
std::string search_words(const Group&) { return "group"; }
std::string problem_of(const Group&, const Group*) { return {}; }

Box3 box_of(const Group& group) {
    Box3 box;
    for (const ItemPtr& member : group.items) box.add(box_of(*member));
    return box;
}

std::optional<Placement> placement_of(const Group&) { return {}; }
std::optional<Vec3> place_of_part(const Group&, const Vec3&) { return {}; }
std::optional<Vec3> part_at(const Group&, const Vec3&) { return {}; }

Group transformed(const Group& group, const Transform& transform) {
    Group out = group;
    for (size_t i = 0; i < out.items.size(); ++i) out.items.set(i, transformed(*out.items[i], transform));
    return out;
}

const ItemList* members_of(const Group& group) { return &group.items; }
Group with_members(const Group&, ItemList members) { return {std::move(members)}; }
void for_each_reference(Group&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
