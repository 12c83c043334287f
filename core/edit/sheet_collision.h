#pragma once

#include <optional>
#include <span>

#include "level/tiles/tile_sheet.h"

namespace rubble::edit {

/// The closed line around what of a tile's picture is opaque (its largest connected part), with as few
/// corners as stay within `tolerance_px` of the picture's edge (Douglas and Peucker 1973); in cells from the
/// lower left. Empty where nothing is opaque, or the sheet has no picture.
std::vector<Vec2> outline_from_picture(const TileSheet& sheet, int number, double tolerance_px);

/// What part of a tile's picture is opaque, 0 to 1.
double opaque_part(const TileSheet& sheet, int number);

/// What a tile looks as if it did: a full block, a slope or another shape that rests on its cell's lower
/// side, or background. The same tile with that collision.
SheetTile guessed(const TileSheet& sheet, int number, double tolerance_px);

/// The tiles with a collision of one kind; those that become outlines and have none begin with the whole
/// cell.
TileSheet with_collision(TileSheet sheet, std::span<const int> tiles, TileCollision collision);
/// The tiles with one outline; a simple line of three corners or more.
TileSheet with_outline(TileSheet sheet, std::span<const int> tiles, const std::vector<Vec2>& outline);
/// The tiles with what they do.
TileSheet with_acts(TileSheet sheet, std::span<const int> tiles, TileActs acts);

/// An outline mirrored left to right within its cell, and turned by quarters counter-clockwise.
std::vector<Vec2> mirrored(std::vector<Vec2> outline);
/// See above.
std::vector<Vec2> turned(std::vector<Vec2> outline, int quarters);
/// The outline with its stairs as ramps: each run of three and more edges that go up (or down) in steps
/// becomes one straight edge. Nothing where it has no stairs.
std::optional<std::vector<Vec2>> ramps_for_stairs(const std::vector<Vec2>& outline);
/// Whether no two edges of a closed line meet but neighbours in their corner, and it has an inside.
bool is_simple(const std::vector<Vec2>& outline);

/// A sheet cut anew: tiles whose cells lie on the same pixels as before keep their numbers and all that is
/// theirs, new cells that show something get new ones. Tiles that no cell shows any more are kept, and
/// listed.
struct Recut {
    TileSheet sheet;
    std::vector<int> lost;
};
/// See above. `picture` is the picture as it is now.
Recut recut(const TileSheet& sheet, std::shared_ptr<const Picture> picture, const SheetCut& cut);

} // namespace rubble::edit
