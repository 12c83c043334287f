#pragma once

#include <array>
#include <functional>
#include <map>
#include <memory>
#include <span>
#include <utility>

#include "base/shared.h"
#include "level/tiles/tile.h"

namespace rubble {

/// A cell of a tile layer: columns count to the right, rows downwards as they are written in files.
struct CellAt {
    int column = 0, row = 0;
    auto operator<=>(const CellAt&) const = default;
};

/// Cells from `low` up to, without, `high`.
struct TileBox {
    CellAt low, high;

    int columns() const { return high.column - low.column; }
    int rows() const { return high.row - low.row; }
    bool empty() const { return columns() <= 0 || rows() <= 0; }
    bool contains(CellAt cell) const {
        return cell.column >= low.column && cell.column < high.column && cell.row >= low.row &&
               cell.row < high.row;
    }
    /// Grows to hold another box.
    void add(const TileBox& box);
    /// The part that two boxes share.
    TileBox common(const TileBox& box) const;
    bool operator==(const TileBox&) const = default;
};

/// The box of one cell.
inline TileBox box_of(CellAt cell) { return {cell, {cell.column + 1, cell.row + 1}}; }

/// Cells along the side of a chunk.
inline constexpr int chunk_cells = 32;
/// The chunk that a column or row lies in.
constexpr int chunk_of(int index) { return index >= 0 ? index / chunk_cells : (index + 1) / chunk_cells - 1; }
/// Where a cell lies within its chunk.
constexpr size_t index_in_chunk(CellAt cell) {
    const int column = cell.column - chunk_of(cell.column) * chunk_cells,
              row = cell.row - chunk_of(cell.row) * chunk_cells;
    return size_t(row * chunk_cells + column);
}

/// Cells in square chunks that copies share: an edit copies the chunks it touches and, of the rest, one
/// pointer a row of chunks.
class TileGrid {
public:
    using Chunk = std::array<Tile, size_t(chunk_cells) * chunk_cells>; ///< row by row

    struct Change {
        CellAt at;
        Tile tile;
    };

    /// Empty where nothing was put.
    Tile at(CellAt cell) const;
    /// The cells that were ever part of it: in files its rows are as many and as long.
    const TileBox& area() const { return area_; }
    /// Whether no cell holds a tile.
    bool bare() const { return rows_.empty(); }

    /// The same with some cells otherwise; the area grows to hold all that are not empty.
    TileGrid with(std::span<const Change> changes) const;
    /// The same with the area grown.
    TileGrid with_area(const TileBox& box) const;

    /// Calls `visit(chunk column, chunk row, chunk)` for every chunk that holds a tile, row by row.
    void for_each_chunk(const std::function<void(int, int, const Shared<Chunk>&)>& visit) const;
    /// Calls `visit(cell, tile)` for every tile in a box, row by row.
    void for_each_tile(const TileBox& box, const std::function<void(CellAt, Tile)>& visit) const;
    /// Calls `visit(low cell, high cell)` for every chunk that is not the very same in both.
    static void for_each_changed_chunk(const TileGrid& a, const TileGrid& b,
                                       const std::function<void(const TileBox&)>& visit);
    /// The chunk at chunk coordinates; null where it holds no tile.
    const Shared<Chunk>* chunk(int column, int row) const;

    /// Equal cells and areas.
    bool operator==(const TileGrid&) const = default;

private:
    friend class TileGridMaker;
    using ChunkRow = std::map<int, Shared<Chunk>>; ///< by chunk column
    std::map<int, Shared<ChunkRow>> rows_;         ///< by chunk row
    TileBox area_;
};

/// Changes very many cells of a grid at once: each chunk is copied once, when a cell in it is first put.
class TileGridMaker {
public:
    explicit TileGridMaker(TileGrid grid = {}) : grid_(std::move(grid)) {}

    /// As the cell is by now.
    Tile at(CellAt cell) const;
    /// Puts a tile, or nothing, into a cell.
    void put(CellAt cell, Tile tile) { chunk_with(cell)[index_in_chunk(cell)] = tile; }
    /// Puts a tile into the cells of a row from `from` up to, without, `to`.
    void put_run(CellAt from, int to, Tile tile);
    /// The grid with all that was put; the area grows to hold `box` and the cells that are not empty.
    TileGrid finished(const TileBox& box = {});

private:
    TileGrid::Chunk& chunk_with(CellAt cell);

    TileGrid grid_;
    std::map<std::pair<int, int>, std::unique_ptr<TileGrid::Chunk>> made_; ///< by chunk row and column
    std::pair<int, int> last_{0, 0};
    TileGrid::Chunk* last_chunk_ = nullptr;
};

} // namespace rubble
