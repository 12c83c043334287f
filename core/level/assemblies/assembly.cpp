#include "level/assemblies/assembly.h"

#include <cmath>

#include "level/item.h"

namespace rubble {

namespace {

/// Where a block of tiles lies; null for other items.
Vec3* origin_in(Item& item) {
    auto* block = std::get_if<PlacedTiles>(&item.body);
    return block ? &block->tiles.origin : nullptr;
}

Placement* placement_in(Item& item) {
    if (auto* brush = std::get_if<Brush>(&item.body)) return &brush->place;
    if (auto* piece = std::get_if<PlacedPiece>(&item.body)) return &piece->place;
    if (auto* assembly = std::get_if<PlacedAssembly>(&item.body)) return &assembly->place;
    return nullptr;
}

Extra* values_in(Item& item) {
    if (auto* element = std::get_if<Element>(&item.body)) return &element->values;
    if (auto* piece = std::get_if<PlacedPiece>(&item.body)) return &piece->values;
    return nullptr;
}

bool near(const Vec3& a, const Vec3& b) { return glm::length(a - b) < 1e-7; }

} // namespace

std::optional<Item> with_own(const Item& item, const OwnValues& own) {
    if (own.left_out) return {};
    Item out = item;
    if (Placement* place = placement_in(out)) {
        if (own.at) place->at = *own.at;
        if (own.turn_deg) place->turn_deg = *own.turn_deg, place->rotation.reset();
    }
    if (Vec3* origin = origin_in(out); origin && own.at) *origin = *own.at;
    if (auto* element = std::get_if<Element>(&out.body)) {
        if (own.at) element->at = *own.at;
        if (own.turn_deg) element->facing_deg = *own.turn_deg;
    }
    if (auto* brush = std::get_if<Brush>(&out.body)) {
        if (own.size) brush->size = *own.size;
        if (own.material) brush->material = {*own.material};
    }
    if (Extra* values = values_in(out))
        for (const auto& [key, value] : own.values) (*values)[key] = value;
    return out;
}

OwnValues own_of(const Item& original, const Item& now) {
    OwnValues own;
    Item before = original, after = now;
    if (const Placement* a = placement_in(before), *b = placement_in(after); a && b) {
        if (!near(a->at, b->at)) own.at = b->at;
        if (!b->rotation && std::abs(std::remainder(a->turn_deg - b->turn_deg, 360.0)) > 1e-9)
            own.turn_deg = b->turn_deg;
    }
    if (const Vec3* a = origin_in(before), *b = origin_in(after); a && b && !near(*a, *b)) own.at = *b;
    if (const Element* a = original.element(), *b = now.element(); a && b) {
        if (!near(a->at, b->at)) own.at = b->at;
        if (std::abs(std::remainder(a->facing_deg - b->facing_deg, 360.0)) > 1e-9)
            own.turn_deg = b->facing_deg;
    }
    if (const Brush* a = original.brush(), *b = now.brush(); a && b) {
        if (!near(a->size, b->size)) own.size = b->size;
        if (a->material != b->material) own.material = b->material.value;
    }
    if (const Extra* a = values_in(before), *b = values_in(after); a && b)
        for (const auto& [key, value] : *b)
            if (const auto found = a->find(key); found == a->end() || found->second != value)
                own.values[key] = value;
    return own;
}

} // namespace rubble
