#pragma once

#include <memory>
#include <vector>

#include "edit/sheet_collision.h"

namespace rubble::edit {

/// A sheet of unequal pictures cut at their empty borders: one for each part that at least `gap_px` empty
/// pixels keep from all others, as tiles with boxes of their own, from the top and then from the left. Empty
/// where nothing is empty, or nothing else.
std::map<int, SheetTile> pictures_on(const Picture& picture, int gap_px = 1);

/// Whether a picture is better cut at its empty borders than into equal cells: its parts differ much in size.
bool has_unequal_pictures(const Picture& picture);

/// Whether a sheet was cut so.
bool is_of_unequal_pictures(const TileSheet& sheet);

/// The sheet for a picture that changed: each part takes the number and all else of the one that it covers
/// most; what none covers any more is kept and listed.
Recut pictures_again(const TileSheet& sheet, std::shared_ptr<const Picture> picture, int gap_px = 1);

} // namespace rubble::edit
