#pragma once

#include <functional>
#include <memory>
#include <string>

#include "base/id.h"
#include "geometry/vec.h"
#include "level/extra.h"
#include "level/item_list.h"
#include "level/transform.h"

namespace rubble {

struct ElementKind;

/// Anything that takes part in play: start, goal, place, note. Kinds that a newer version knows are kept.
struct Element {
    std::string kind;
    Vec3 at{0};
    double facing_deg = 0;
    Extra values;
    std::shared_ptr<const ElementKind> own = {}; ///< of a kind that the project made: that kind
    bool operator==(const Element& other) const;
};

/// What every kind of item answers, as item.h says. @{
const char* type_key(const Element& element);
const char* id_prefix(const Element& element);
std::string kind_word(const Element& element);
std::string search_words(const Element& element);
std::string problem_of(const Element& element, const Element* before = nullptr);
Box3 box_of(const Element& element);
std::optional<Placement> placement_of(const Element& element);
std::optional<Vec3> place_of_part(const Element& element, const Vec3& part);
std::optional<Vec3> part_at(const Element& element, const Vec3& place);
Element transformed(const Element& element, const Transform& transform);
const ItemList* members_of(const Element& element);
Element with_members(const Element& element, ItemList members);
void for_each_reference(Element& element, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
