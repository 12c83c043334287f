#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "level/item_list.h"
#include "level/tiles/tile_sheet.h"
#include "level/transform.h"

namespace rubble {

/// A picture of a sheet placed freely: what stands about in a level of tiles, or, where it repeats, a
/// backdrop behind all.
struct PlacedPicture {
    std::string sheet_file;
    std::shared_ptr<const TileSheet> sheet; ///< null where it could not be read
    int number = 0;                         ///< of its tile on the sheet
    Vec3 at{0};                             ///< the middle of its lower side
    Vec2 size{1};                           ///< width and height (metres)
    bool upright = true;                    ///< seen from the side; else from above
    double turn_deg = 0;                    ///< counter-clockwise on the screen
    bool mirrored = false;                  ///< left to right, before it is turned
    bool solid = false;                     ///< it collides by its tile's outline
    bool repeats_right = false, repeats_up = false;
    double opacity = 1;
    Vec2 parallax{1}; ///< as of tile layers
    bool operator==(const PlacedPicture&) const = default;
};

inline constexpr double smallest_picture_m = 0.01, largest_picture_m = 10'000;

/// Where a picture lies: its lower left corner as it is seen, and its lower and left side from there.
struct PictureSides {
    Vec3 corner{0}, right{0}, up{0};
};
/// Where a picture lies. Mirroring changes what is seen in it and not where it is.
PictureSides sides_of(const PlacedPicture& picture);
/// The closed line within which a solid picture keeps the character out, in the picture plane of the level
/// (to the right, up the screen); empty where it keeps nobody out.
std::vector<Vec2> matter_outline(const PlacedPicture& picture);

/// What every kind of item answers, as item.h says. @{
const char* type_key(const PlacedPicture& picture);
const char* id_prefix(const PlacedPicture& picture);
std::string kind_word(const PlacedPicture& picture);
std::string search_words(const PlacedPicture& picture);
std::string problem_of(const PlacedPicture& picture, const PlacedPicture* before = nullptr);
Box3 box_of(const PlacedPicture& picture);
std::optional<Placement> placement_of(const PlacedPicture& picture);
std::optional<Vec3> place_of_part(const PlacedPicture& picture, const Vec3& part);
std::optional<Vec3> part_at(const PlacedPicture& picture, const Vec3& place);
PlacedPicture transformed(const PlacedPicture& picture, const Transform& transform);
const ItemList* members_of(const PlacedPicture& picture);
PlacedPicture with_members(const PlacedPicture& picture, ItemList members);
void for_each_reference(PlacedPicture& picture, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
