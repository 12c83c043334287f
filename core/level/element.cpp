#include "level/element.h"

#include <cmath>

#include "geometry/exact.h"
#include "level/element_kinds.h"
#include "level/item.h"

namespace rubble {

const char* type_key(const Element&) { return "element"; }
const char* id_prefix(const Element& element) { return kind_of(element).id_prefix; }
std::string kind_word(const Element& element) { return element.kind; }
std::string search_words(const Element& element) { return "element " + element.kind; }

std::string problem_of(const Element& element, const Element*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(element.at[axis]) <= geometry::farthest_m)) return "at";
    return {};
}

Box3 box_of(const Element& element) {
    Box3 box;
    box.add(element.at);
    return box;
}

std::optional<Placement> placement_of(const Element& element) {
    return Placement{element.at, element.facing_deg, {}};
}

std::optional<Vec3> place_of_part(const Element& element, const Vec3&) { return element.at; }
std::optional<Vec3> part_at(const Element&, const Vec3&) { return Vec3(0); }

Element transformed(const Element& element, const Transform& transform) {
    Element out = element;
    out.facing_deg = transform.heading_deg(element.at, element.facing_deg);
    out.at = transform.applied_to(element.at);
    return out;
}

const ItemList* members_of(const Element&) { return nullptr; }
Element with_members(const Element& element, ItemList) { return element; }
void for_each_reference(Element&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
