#include "level/kits/placed_piece.h"

#include <algorithm>
#include <cmath>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

namespace {

Vec3 as_mirrored(const PlacedPiece& placed, Vec3 own) {
    if (placed.mirrored) own.x = -own.x;
    return own;
}

Box3 own_box(const PlacedPiece& placed) {
    return placed.piece ? own_box(*placed.piece) : Box3{Vec3(-0.5, -0.5, 0), Vec3(0.5, 0.5, 1)};
}

} // namespace

bool is_prop(const PlacedPiece& placed) { return placed.piece && placed.piece->seat == PieceSeat::free; }

Vec3 to_level(const PlacedPiece& placed, const Vec3& own) {
    return placed.place.to_level(as_mirrored(placed, own) * placed.sized);
}
Vec3 direction_in_level(const PlacedPiece& placed, const Vec3& own) {
    return placed.place.direction(as_mirrored(placed, own));
}
Vec3 to_own(const PlacedPiece& placed, const Vec3& at_level) {
    return as_mirrored(placed, placed.place.to_own(at_level) / placed.sized);
}

const char* type_key(const PlacedPiece&) { return "piece"; }
const char* id_prefix(const PlacedPiece&) { return "p"; }

std::string kind_word(const PlacedPiece& placed) {
    if (!placed.piece) return placed.piece_id.empty() ? "piece" : placed.piece_id;
    return placed.piece->name.empty() ? placed.piece->id : placed.piece->name;
}
std::string search_words(const PlacedPiece& placed) { return "piece " + kind_word(placed); }

std::string problem_of(const PlacedPiece& placed, const PlacedPiece*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(placed.place.at[axis]) <= geometry::farthest_m)) return "at";
    if (!std::isfinite(placed.place.turn_deg)) return "turn_deg";
    if (!(placed.sized >= least_sized && placed.sized <= most_sized)) return "sized";
    return {};
}

Box3 box_of(const PlacedPiece& placed) {
    const Box3 own = own_box(placed);
    Box3 box;
    for (int corner = 0; corner < 8; ++corner)
        box.add(to_level(placed, {(corner & 1 ? own.high : own.low).x, (corner & 2 ? own.high : own.low).y,
                                  (corner & 4 ? own.high : own.low).z}));
    return box;
}

std::optional<Placement> placement_of(const PlacedPiece& placed) { return placed.place; }

std::optional<Vec3> place_of_part(const PlacedPiece& placed, const Vec3& part) {
    const Box3 own = own_box(placed);
    return to_level(placed, own.low + (own.high - own.low) * part);
}

std::optional<Vec3> part_at(const PlacedPiece& placed, const Vec3& place) {
    const Box3 own = own_box(placed);
    return (to_own(placed, place) - own.low) / glm::max(own.high - own.low, Vec3(1e-9));
}

PlacedPiece transformed(const PlacedPiece& placed, const Transform& transform) {
    PlacedPiece out = placed;
    out.place = transform.applied_to(placed.place);
    if (is_prop(placed)) // what sits on a module is as large as that is
        out.sized = std::clamp(placed.sized * transform.factor(), least_sized, most_sized);
    if (!transform.mirrors()) return out;
    // What stands there now is meant for the image across the own plane y = 0: the one across x = 0, turned
    // by half a turn.
    out.mirrored = !placed.mirrored;
    if (out.place.rotation)
        out.place.rotation = rotation_onto(-out.place.direction({1, 0, 0}), -out.place.direction({0, 1, 0}),
                                           out.place.direction({0, 0, 1}));
    else
        out.place.turn_deg = std::remainder(out.place.turn_deg + 180, 360.0);
    return out;
}

const ItemList* members_of(const PlacedPiece&) { return nullptr; }
PlacedPiece with_members(const PlacedPiece& placed, ItemList) { return placed; }
void for_each_reference(PlacedPiece&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
