#include "level/tiles/placed_picture.h"

#include <cmath>

#include "base/angle.h"
#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

namespace {

/// The axis along which a picture goes up: z where it stands, y where it lies.
int up_axis(const PlacedPicture& picture) { return picture.upright ? 2 : 1; }

Vec3 in_plane(const PlacedPicture& picture, double right, double up) {
    Vec3 out(0);
    out.x = right, out[up_axis(picture)] = up;
    return out;
}

} // namespace

PictureSides sides_of(const PlacedPicture& picture) {
    const double a = radians(picture.turn_deg), c = std::cos(a), s = std::sin(a);
    const Vec3 right = in_plane(picture, c, s) * picture.size.x,
               up = in_plane(picture, -s, c) * picture.size.y;
    return {picture.at - right * 0.5, right, up};
}

std::vector<Vec2> matter_outline(const PlacedPicture& picture) {
    if (!picture.solid) return {};
    std::vector<Vec2> outline = collision_outline(picture.sheet.get(), picture.number);
    const PictureSides sides = sides_of(picture);
    const int up = up_axis(picture);
    for (Vec2& p : outline) {
        const Vec3 at = sides.corner + sides.right * (picture.mirrored ? 1 - p.x : p.x) + sides.up * p.y;
        p = {at.x, at[up]};
    }
    return outline;
}

const char* type_key(const PlacedPicture&) { return "picture"; }
const char* id_prefix(const PlacedPicture&) { return "i"; }

std::string kind_word(const PlacedPicture& picture) {
    const SheetTile* tile = picture.sheet ? picture.sheet->tile(picture.number) : nullptr;
    return tile && !tile->name.empty() ? tile->name : "picture";
}
std::string search_words(const PlacedPicture& picture) { return "picture " + kind_word(picture); }

std::string problem_of(const PlacedPicture& picture, const PlacedPicture*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(picture.at[axis]) <= geometry::farthest_m)) return "at";
    for (const double side : {picture.size.x, picture.size.y})
        if (!(side >= smallest_picture_m && side <= largest_picture_m)) return "size";
    return {};
}

Box3 box_of(const PlacedPicture& picture) {
    const PictureSides sides = sides_of(picture);
    Box3 box;
    for (const Vec3& corner : {sides.corner, sides.corner + sides.right, sides.corner + sides.up,
                               sides.corner + sides.right + sides.up})
        box.add(corner);
    return box;
}

std::optional<Placement> placement_of(const PlacedPicture& picture) {
    return Placement{picture.at, picture.upright ? 0 : picture.turn_deg, {}};
}

std::optional<Vec3> place_of_part(const PlacedPicture& picture, const Vec3& part) {
    const PictureSides sides = sides_of(picture);
    return sides.corner + sides.right * part.x + sides.up * part.y;
}

std::optional<Vec3> part_at(const PlacedPicture& picture, const Vec3& place) {
    const PictureSides sides = sides_of(picture);
    const Vec3 from = place - sides.corner;
    return Vec3(glm::dot(from, sides.right) / glm::dot(sides.right, sides.right),
                glm::dot(from, sides.up) / glm::dot(sides.up, sides.up), 0);
}

PlacedPicture transformed(const PlacedPicture& picture, const Transform& transform) {
    PlacedPicture out = picture;
    out.at = transform.applied_to(picture.at);
    out.size *= transform.factor();
    // Its lower side as it comes to lie; mirrored, that side runs the other way.
    Vec3 along = transform.applied_to(picture.at + sides_of(picture).right) - out.at;
    if (transform.mirrors()) along = -along, out.mirrored = !out.mirrored;
    const double up = along[up_axis(picture)];
    // Turned out of its plane it could not be seen: it stays as it lies.
    if (std::hypot(along.x, up) > picture.size.x * transform.factor() / 2)
        out.turn_deg = degrees(std::atan2(up, along.x));
    return out;
}

const ItemList* members_of(const PlacedPicture&) { return nullptr; }
PlacedPicture with_members(const PlacedPicture& picture, ItemList) { return picture; }
void for_each_reference(PlacedPicture&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
