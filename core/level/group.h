#pragma once

#include <functional>
#include <string>

#include "base/id.h"
#include "geometry/vec.h"
#include "level/item_list.h"
#include "level/transform.h"

namespace rubble {

/// Groups lie within each other at most this deep.
inline constexpr int deepest_group = 60;

/// Items that are handled as one; in the order of fills and cuts they count at the group's own place.
struct Group {
    ItemList items;
    bool operator==(const Group& other) const;
};

/// What every kind of item answers, as item.h says. @{
const char* type_key(const Group& group);
const char* id_prefix(const Group& group);
std::string kind_word(const Group& group);
std::string search_words(const Group& group);
std::string problem_of(const Group& group, const Group* before = nullptr);
Box3 box_of(const Group& group);
std::optional<Placement> placement_of(const Group& group);
std::optional<Vec3> place_of_part(const Group& group, const Vec3& part);
std::optional<Vec3> part_at(const Group& group, const Vec3& place);
Group transformed(const Group& group, const Transform& transform);
const ItemList* members_of(const Group& group);
Group with_members(const Group& group, ItemList members);
void for_each_reference(Group& group, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
