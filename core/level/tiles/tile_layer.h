#pragma once

#include <memory>
#include <string>

#include "geometry/vec.h"
#include "level/frame.h"
#include "level/tiles/tile_grid.h"
#include "level/tiles/tile_sheet.h"

namespace rubble {

/// A layer of tiles: cells of one size, filled from one sheet.
struct TileLayer {
    double cell_m = 0.5;
    Vec3 origin{0};                         ///< the upper left corner of column 0, row 0
    std::string sheet_file;                 ///< empty: plain cells
    std::shared_ptr<const TileSheet> sheet; ///< null for plain cells, and where it could not be read
    bool solid = false;                     ///< for the character
    double depth = 0;                       ///< above 0 behind the character, below 0 before it
    double opacity = 1;
    Vec2 parallax{1}; ///< how far it goes along with the picture; 1 with the character, 0 not at all
    TileGrid grid;

    /// The very same sheet counts, not one that is alike.
    bool operator==(const TileLayer&) const = default;
};

/// Least and largest cell (metres).
inline constexpr double smallest_cell_m = 0.01, largest_cell_m = 100;

/// Where a place of a cell lies in the level, `in_cell` from the cell's lower left (0 to 1).
Vec3 place_of(const TileLayer& layer, Frame frame, CellAt cell, Vec2 in_cell = Vec2(0.5));
/// The cell over which a place lies.
CellAt cell_at(const TileLayer& layer, Frame frame, const Vec3& place);
/// The same layer with its cells counted from the upper left of those it has, as files count them: every cell
/// stays where it lies.
TileLayer counted_anew(TileLayer layer, Frame frame);
/// Box around some cells, flat; empty for none.
Box3 box_of(const TileLayer& layer, Frame frame, const TileBox& cells);

} // namespace rubble
