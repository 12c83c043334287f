#pragma once

#include <span>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// A block of cells that is painted as one, row by row from the top; empty cells of it leave what is there.
struct Stamp {
    int columns = 1, rows = 1;
    std::vector<Tile> tiles{Tile(0)};

    Tile at(int column, int row) const { return tiles[size_t(row) * size_t(columns) + size_t(column)]; }
    /// What lies in a cell where the stamp is laid again and again from `from` on.
    Tile repeated(CellAt cell, CellAt from) const;
    bool operator==(const Stamp&) const = default;
};

/// The stamp mirrored left to right, or turned by quarters counter-clockwise, with the tiles in it.
Stamp mirrored(const Stamp& stamp);
/// See above.
Stamp turned(const Stamp& stamp, int quarters);
/// What lies in a box of cells as a stamp.
Stamp stamp_of(const TileGrid& grid, const TileBox& box);

using TileChanges = std::vector<TileGrid::Change>;

/// The cells from one to another, each touching the next (Bresenham 1965).
std::vector<CellAt> cells_on_line(CellAt from, CellAt to);
/// The cells of a box that lie in the ellipse within it; only its rim where not `filled`.
std::vector<CellAt> cells_in_ellipse(const TileBox& box, bool filled);
/// The box that two corners span.
TileBox box_between(CellAt a, CellAt b);
/// The cells around one that hold the same tile, side by side, as runs of rows; none where nothing ends the
/// area before the layer's own end, and of a cell outside it.
struct TileRun {
    CellAt from;
    int to = 0; ///< the column after the last
};
/// See above; at most `most` cells.
std::vector<TileRun> area_around(const TileGrid& grid, CellAt cell, int64_t most = int64_t(1) << 26);

/// Changes that lay a stamp, with its upper left cell at each of some cells.
TileChanges stamped(const Stamp& stamp, std::span<const CellAt> at);
/// Changes that fill cells with a stamp that is repeated from `from` on.
TileChanges filled(const Stamp& stamp, std::span<const CellAt> cells, CellAt from);
/// The grid with runs of cells filled with a stamp that is repeated from `from` on; with an empty stamp,
/// cleared.
TileGrid filled(const TileGrid& grid, const Stamp& stamp, std::span<const TileRun> runs, CellAt from);
/// Changes that put another tile in the place of each that has a number, lying as it lies.
TileChanges replaced(const TileGrid& grid, int number, int by);

/// A level with some cells of a layer otherwise; itself where there is no such layer of tiles.
Level with_tiles(const Level& level, const LayerId& layer, std::span<const TileGrid::Change> changes);
/// The same with all of the layer's own values and cells given. Cells painted beyond the upper left become
/// the first ones.
Level with_tile_layer(const Level& level, const LayerId& layer, TileLayer tiles);
/// The layer of tiles of an id; null where there is none.
const TileLayer* tile_layer(const Level& level, const LayerId& layer);

/// The project with a sheet, in the place of the one of the same file where it has one.
Project with_sheet(const Project& project, TileSheet sheet);

} // namespace rubble::edit
