#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "level/extra.h"
#include "level/tiles/edging.h"
#include "level/tiles/tile.h"

namespace rubble {

/// A picture as bytes, four a pixel: red, green, blue, opacity (sRGB, opacity not multiplied in), row by row
/// from the top.
struct Picture {
    int width = 0, height = 0;
    std::vector<uint8_t> rgba;

    /// The opacity of a pixel, 0 outside.
    uint8_t alpha(int x, int y) const {
        const bool inside = x >= 0 && y >= 0 && x < width && y < height;
        return inside ? rgba[(size_t(y) * size_t(width) + size_t(x)) * 4 + 3] : 0;
    }
    bool operator==(const Picture&) const = default;
};

/// How a sheet's picture is cut into cells (pixels).
struct SheetCut {
    std::array<int, 2> cell_px{16, 16}; ///< width and height
    int margin_px = 0;                  ///< before the first cell, both ways
    int spacing_px = 0;                 ///< between cells
    bool operator==(const SheetCut&) const = default;
};

/// How many whole cells a picture of some size holds.
std::array<int, 2> cells_in(const SheetCut& cut, int width, int height);

/// What a tile keeps the character out of.
enum class TileCollision { none, full, outline, one_way };
/// What it does to the character besides.
enum class TileActs { nothing, deadly };

/// A tile of a sheet.
struct SheetTile {
    std::array<int, 2> at{0, 0}; ///< column and row of its cell, from the picture's upper left
    /// Of one picture among unequal ones: left, top, width, height. Then `at` is its number and 0.
    std::optional<std::array<int, 4>> box_px;
    std::string name;
    TileCollision collision = TileCollision::none;
    std::vector<Vec2> outline; ///< in cells from the cell's lower left; closed, a simple line
    TileActs acts = TileActs::nothing;
    Extra extra;
    bool operator==(const SheetTile&) const = default;
};

/// A picture cut into tiles. A tile's number is its for good: no other tile gets it, also when the sheet
/// grows.
struct TileSheet {
    std::string file;                       ///< of the sheet, as layers name it
    std::string image;                      ///< of the picture, beside the sheet's file
    std::shared_ptr<const Picture> picture; ///< null where it could not be read
    SheetCut cut;
    std::map<int, SheetTile> tiles;
    std::vector<Edging> edgings; ///< the grounds that it has tiles for
    Extra extra;

    /// Null for numbers that no tile has.
    const SheetTile* tile(int number) const {
        const auto found = tiles.find(number);
        return found == tiles.end() ? nullptr : &found->second;
    }
    bool operator==(const TileSheet&) const = default;
};

/// A number for a new tile: larger than all that were ever given.
int next_tile_number(const TileSheet& sheet);
/// Where on the picture a tile lies: left, top, width, height (pixels).
std::array<int, 4> pixels_of(const TileSheet& sheet, const SheetTile& tile);
/// The closed line within which a tile keeps the character out, in cells from the lower left, before it is
/// mirrored and turned; empty where it keeps nobody out. One that is not on its sheet is a whole cell.
std::vector<Vec2> collision_outline(const TileSheet* sheet, int number);
/// Whether a place lies within a closed line.
bool in_outline(const std::vector<Vec2>& outline, Vec2 place);
/// A place of a cell (0 to 1) where the tile's mirroring and turns bring it.
Vec2 placed(const Tile& tile, Vec2 in_cell);

} // namespace rubble
