#include "level/assemblies/placed_assembly.h"

#include <cmath>

#include "base/angle.h"
#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

namespace {

const MirrorPlane k_left_to_right{0, 0};

/// The turn of a placement, one way or back.
Item turned_as(const Item& item, const Placement& place, double sign) {
    if (place.rotation) {
        const auto& r = *place.rotation;
        const Vec3 axis(r[0], r[1], r[2]);
        const double sine = glm::length(axis);
        if (sine <= 1e-12) return item;
        const double turn_deg = degrees(2 * std::atan2(sine, r[3]));
        return transformed(item, Transform::turning({0, 0, 0}, sign * turn_deg, axis / sine));
    }
    if (place.turn_deg == 0) return item;
    return transformed(item, Transform::turning({0, 0, 0}, sign * place.turn_deg));
}

Item mirrored_as(const Item& item, const PlacedAssembly& placed) {
    return placed.mirrored ? transformed(item, Transform::mirroring(k_left_to_right)) : item;
}

/// An item of an assembly's own axes where a place brings it, and back.
Item to_level(const Item& item, const PlacedAssembly& placed) {
    return transformed(turned_as(mirrored_as(item, placed), placed.place, 1),
                       Transform::moving(placed.place.at));
}
Item to_own(const Item& item, const PlacedAssembly& placed) {
    const Item moved = transformed(item, Transform::moving(-placed.place.at));
    return mirrored_as(turned_as(moved, placed.place, -1), placed);
}

/// The same item, and all it holds and refers to, under other ids.
Item renamed(const Item& item, const std::function<void(ItemId&)>& rename) {
    Item out = item;
    rename(out.id);
    for_each_reference(out, rename);
    if (const ItemList* members = members_of(item)) {
        ItemList inner = *members;
        for (size_t i = 0; i < inner.size(); ++i) inner.set(i, renamed(*inner[i], rename));
        out = with_members(out, std::move(inner));
    }
    return out;
}

Item with_prefix(const Item& item, const std::string& prefix) {
    return renamed(item, [&](ItemId& id) {
        if (!id.empty()) id = {prefix + id.value};
    });
}

Item without_prefix(const Item& item, const std::string& prefix) {
    return renamed(item, [&](ItemId& id) {
        if (id.value.starts_with(prefix)) id = {id.value.substr(prefix.size())};
    });
}

} // namespace

void for_each_source(PlacedAssembly& placed, const std::function<void(std::string&)>& visit) {
    visit(placed.source);
    for (Alternative& alternative : placed.one_of) visit(alternative.source);
}

void for_each_source(const PlacedAssembly& placed, const std::function<void(const std::string&)>& visit) {
    visit(placed.source);
    for (const Alternative& alternative : placed.one_of) visit(alternative.source);
}

ItemList with_own(const ItemList& items, const OwnById& own) {
    if (own.empty()) return items;
    std::vector<ItemPtr> out;
    for (const ItemPtr& item : items) {
        const auto found = own.find(item->id.value);
        std::optional<Item> now = found == own.end() ? std::optional(*item) : with_own(*item, found->second);
        if (!now) continue;
        if (auto* nested = std::get_if<PlacedAssembly>(&now->body)) {
            // What is own to something in it is the nested place's own.
            const std::string within = item->id.value + "/";
            for (auto one = own.lower_bound(within); one != own.end() && one->first.starts_with(within);
                 ++one)
                nested->own[one->first.substr(within.size())] = one->second;
        }
        if (const ItemList* members = members_of(*now)) now = with_members(*now, with_own(*members, own));
        out.push_back(ItemPtr(std::move(*now)));
    }
    return ItemList(out);
}

ItemList members_at(const ItemId& id, const PlacedAssembly& placed) {
    if (!placed.assembly) return {};
    std::vector<ItemPtr> out;
    for (const ItemPtr& item : with_own(placed.assembly->resolved, placed.own))
        out.push_back(ItemPtr(with_prefix(to_level(*item, placed), id.value + "/")));
    return ItemList(out);
}

PlacedAssembly with_members_at(const ItemId& id, PlacedAssembly placed) {
    placed.members = members_at(id, placed);
    return placed;
}

namespace {

/// Notes what items have otherwise than their originals; both in the assembly's axes, without prefixes.
void note_own(const ItemList& originals, const ItemList& now, OwnById& own) {
    std::map<std::string, const Item*> known;
    for (const ItemPtr& item : now) known[item->id.value] = item.get();
    for (const ItemPtr& original : originals) {
        const auto found = known.find(original->id.value);
        OwnValues& values = own[original->id.value];
        const Extra kept = values.extra;
        if (found == known.end()) {
            values = {};
            values.left_out = true;
        } else {
            values = own_of(*original, *found->second);
            const ItemList *a = members_of(*original), *b = members_of(*found->second);
            if (a && b) note_own(*a, *b, own);
        }
        own[original->id.value].extra = kept;
    }
}

} // namespace

PlacedAssembly with_own_from_members(const ItemId& id, PlacedAssembly placed) {
    if (!placed.assembly) return placed;
    ItemList now;
    for (const ItemPtr& member : placed.members)
        now.push_back(ItemPtr(without_prefix(to_own(*member, placed), id.value + "/")));
    OwnById own = placed.own;
    note_own(placed.assembly->resolved, now, own);
    std::erase_if(own, [](const auto& one) { return one.second.empty(); });
    placed.own = std::move(own);
    return with_members_at(id, std::move(placed));
}

bool PlacedAssembly::operator==(const PlacedAssembly& other) const {
    return source == other.source && assembly == other.assembly && place == other.place &&
           mirrored == other.mirrored && own == other.own && members == other.members &&
           values == other.values && one_of == other.one_of;
}

const char* type_key(const PlacedAssembly&) { return "assembly"; }
const char* id_prefix(const PlacedAssembly&) { return "a"; }
std::string kind_word(const PlacedAssembly& placed) {
    return placed.assembly && !placed.assembly->name.empty() ? placed.assembly->name : "assembly";
}
std::string search_words(const PlacedAssembly& placed) { return "assembly " + kind_word(placed); }

std::string problem_of(const PlacedAssembly& placed, const PlacedAssembly*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(placed.place.at[axis]) <= geometry::farthest_m)) return "at";
    return std::isfinite(placed.place.turn_deg) ? "" : "turn_deg";
}

Box3 box_of(const PlacedAssembly& placed) {
    Box3 box;
    for (const ItemPtr& member : placed.members) box.add(box_of(*member));
    if (box.empty()) box = {placed.place.at - Vec3(0.5, 0.5, 0), placed.place.at + Vec3(0.5, 0.5, 1)};
    return box;
}

std::optional<Placement> placement_of(const PlacedAssembly& placed) { return placed.place; }
std::optional<Vec3> place_of_part(const PlacedAssembly& placed, const Vec3& part) {
    return placed.place.to_level(part);
}
std::optional<Vec3> part_at(const PlacedAssembly& placed, const Vec3& place) {
    return placed.place.to_own(place);
}

PlacedAssembly transformed(const PlacedAssembly& placed, const Transform& transform) {
    if (transform.factor() != 1) // it is as large as its original, and goes along
        return transformed(placed,
                           Transform::moving(transform.applied_to(placed.place.at) - placed.place.at));
    PlacedAssembly out = placed;
    out.place = transform.applied_to(placed.place);
    if (transform.mirrors()) { // the image across x = 0 is that across y = 0 turned by half a turn
        out.mirrored = !placed.mirrored;
        if (out.place.rotation)
            out.place.rotation =
                rotation_onto(-out.place.direction({1, 0, 0}), -out.place.direction({0, 1, 0}),
                              out.place.direction({0, 0, 1}));
        else
            out.place.turn_deg = std::remainder(out.place.turn_deg + 180, 360.0);
    }
    for (size_t i = 0; i < out.members.size(); ++i)
        out.members.set(i, transformed(*out.members[i], transform));
    return out;
}

const ItemList* members_of(const PlacedAssembly& placed) { return &placed.members; }
PlacedAssembly with_members(const PlacedAssembly& placed, ItemList members) {
    PlacedAssembly out = placed;
    out.members = std::move(members);
    return out;
}
void for_each_reference(PlacedAssembly&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
