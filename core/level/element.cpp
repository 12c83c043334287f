#include "level/element.h"

#include <cmath>

#include "geometry/exact.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/item.h"

namespace rubble {

bool Element::operator==(const Element& other) const {
    const bool alike = own == other.own || (own && other.own && *own == *other.own);
    return alike && kind == other.kind && at == other.at && facing_deg == other.facing_deg &&
           values == other.values;
}

const char* type_key(const Element&) { return "element"; }
const char* id_prefix(const Element& element) { return kind_of(element).id_prefix.c_str(); }
std::string kind_word(const Element& element) { return element.own ? element.own->name : element.kind; }
std::string search_words(const Element& element) { return "element " + kind_word(element); }

std::string problem_of(const Element& element, const Element*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(element.at[axis]) <= geometry::farthest_m)) return "at";
    return {};
}

Box3 box_of(const Element& element) {
    Box3 box;
    const Vec3 size = size_of(element);
    const Placement place{element.at, element.facing_deg, {}};
    for (const double x : {-0.5, 0.5})
        for (const double y : {-0.5, 0.5})
            for (const double z : {0.0, 1.0}) box.add(place.to_level(size * Vec3(x, y, z)));
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
    for (const ElementField& field : kind_of(element).fields) {
        if (!element.values.contains(field.key)) continue;
        if (field.type == FieldType::places) { // they lie in the level
            std::vector<Vec3> places = points_value(element, field.key);
            for (Vec3& place : places) place = transform.applied_to(place);
            out = with_value(std::move(out), field.key, places);
        } else if (field.unit == "°") {
            const double heading = number_value(element, field.key, field.usual);
            out = with_value(std::move(out), field.key, transform.heading_deg(element.at, heading));
        }
    }
    return out;
}

const ItemList* members_of(const Element&) { return nullptr; }
Element with_members(const Element& element, ItemList) { return element; }
void for_each_reference(Element& element, const std::function<void(ItemId&)>& visit) {
    for (const ElementField& field : kind_of(element).fields) {
        if (field.type != FieldType::items || !element.values.contains(field.key)) continue;
        std::vector<std::string> ids = texts_value(element, field.key);
        for (std::string& one : ids) {
            ItemId id{one};
            visit(id);
            one = id.value;
        }
        element = with_value(std::move(element), field.key, ids);
    }
}

} // namespace rubble
