#pragma once

#include <functional>
#include <string>

#include "geometry/vec.h"
#include "level/brush.h"
#include "level/item_list.h"
#include "level/transform.h"

namespace rubble {

/// What every kind of item answers, as item.h says. @{
const char* type_key(const Brush& brush);
const char* id_prefix(const Brush& brush);
std::string kind_word(const Brush& brush);
std::string search_words(const Brush& brush);
/// What only differs from `before` in its place needs no look at its body.
std::string problem_of(const Brush& brush, const Brush* before);
Box3 box_of(const Brush& brush);
std::optional<Placement> placement_of(const Brush& brush);
std::optional<Vec3> place_of_part(const Brush& brush, const Vec3& part);
std::optional<Vec3> part_at(const Brush& brush, const Vec3& place);
Brush transformed(const Brush& brush, const Transform& transform);
const ItemList* members_of(const Brush& brush);
Brush with_members(const Brush& brush, ItemList members);
void for_each_reference(Brush& brush, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
