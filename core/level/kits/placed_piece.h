#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>

#include "level/item_list.h"
#include "level/kits/kit.h"
#include "level/transform.h"

namespace rubble {

/// A piece of a kit where it stands in a level.
struct PlacedPiece {
    std::string kit_file;
    std::string piece_id;
    std::shared_ptr<const Piece> piece;          ///< null where it could not be read
    Placement place;                             ///< where the origin of the piece stands
    bool mirrored = false;                       ///< left to right in its own axes, before it is turned
    double sized = 1;                            ///< so many times as large as its piece; props alone
    std::optional<PieceCollisionKind> collision; ///< otherwise than its piece
    Extra values;                                ///< for the game, besides those of its piece
    bool operator==(const PlacedPiece&) const = default;
};

/// How much smaller and larger than its piece a prop can be. @{
inline constexpr double least_sized = 0.05, most_sized = 20;
/// @}

/// Whether it dresses a level instead of building it: pieces that sit on no module.
bool is_prop(const PlacedPiece& placed);
/// A place in the piece's own axes in the level, and a direction.
Vec3 to_level(const PlacedPiece& placed, const Vec3& own);
/// A direction of the piece's own axes in the level's.
Vec3 direction_in_level(const PlacedPiece& placed, const Vec3& own);
/// A place of the level in the piece's own axes.
Vec3 to_own(const PlacedPiece& placed, const Vec3& at_level);

/// What every kind of item answers, as item.h says. @{
const char* type_key(const PlacedPiece& placed);
const char* id_prefix(const PlacedPiece& placed);
std::string kind_word(const PlacedPiece& placed);
std::string search_words(const PlacedPiece& placed);
std::string problem_of(const PlacedPiece& placed, const PlacedPiece* before = nullptr);
Box3 box_of(const PlacedPiece& placed);
std::optional<Placement> placement_of(const PlacedPiece& placed);
std::optional<Vec3> place_of_part(const PlacedPiece& placed, const Vec3& part);
std::optional<Vec3> part_at(const PlacedPiece& placed, const Vec3& place);
PlacedPiece transformed(const PlacedPiece& placed, const Transform& transform);
const ItemList* members_of(const PlacedPiece& placed);
PlacedPiece with_members(const PlacedPiece& placed, ItemList members);
void for_each_reference(PlacedPiece& placed, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
