#pragma once

#include <cmath>
#include <map>
#include <memory>
#include <vector>

#include "level/level.h"

namespace rubble::build {

/// What a tile layer's cells do to the character where it meets them.
enum class TileMatterKind { solid, one_way, deadly };

/// A convex part of what tiles keep the character out of, in the picture plane of the level (to the right,
/// up the screen; metres): between two upright lines, over a straight lower line, under a straight upper one.
struct TilePrism {
    double left = 0, right = 0;
    double low_left = 0, low_right = 0;   ///< the lower line at both ends
    double high_left = 0, high_right = 0; ///< the upper line
    bool operator==(const TilePrism&) const = default;
};

/// The matter of the cells in some columns of one layer. Equal neighbours are one: between two full cells
/// there is no edge, and a slope over many tiles is one line.
struct TileStrip {
    LayerId layer;
    int strip = 0; ///< the column of chunks
    TileMatterKind kind = TileMatterKind::solid;
    std::vector<TilePrism> prisms;
    ItemId item; ///< of a picture that is placed freely; empty: of the layer's own cells
};

/// Where one walks from cell to cell: the cells of the first solid layer, and which of them are free.
struct WalkedCells {
    LayerId layer;
    Vec2 corner{0}; ///< upper left of `area`, in the picture plane
    double cell_m = 1;
    int columns = 0, rows = 0;
    enum class Kind : char { free, wall, deadly };
    std::vector<Kind> kinds; ///< row by row

    /// Whether a cell is there and one can be in it.
    bool free(CellAt cell) const { return is(cell, Kind::free); }
    /// Whether it kills.
    bool deadly(CellAt cell) const { return is(cell, Kind::deadly); }
    /// Whether one can go into it, alive or not.
    bool enterable(CellAt cell) const { return free(cell) || deadly(cell); }
    /// The cell that a place of the level lies in.
    CellAt cell_at(Vec2 place) const {
        return {int(std::floor((place.x - corner.x) / cell_m)),
                int(std::floor((corner.y - place.y) / cell_m))};
    }
    /// The middle of a cell in the level.
    Vec2 middle_of(CellAt cell) const { return corner + Vec2(cell.column + 0.5, -cell.row - 0.5) * cell_m; }
    /// Whether it is there and of a kind.
    bool is(CellAt cell, Kind kind) const {
        return cell.column >= 0 && cell.row >= 0 && cell.column < columns && cell.row < rows &&
               kinds[size_t(cell.row) * size_t(columns) + size_t(cell.column)] == kind;
    }
    bool operator==(const WalkedCells&) const = default;
};

/// Works out the matter of tile layers, and again only the columns of chunks that an edit touched.
class TileMatterBuilder {
public:
    using Strips = std::vector<std::shared_ptr<const TileStrip>>;

    /// The strips of all solid layers, in order, and of solid pictures; those that no change touches are the
    /// very same as before.
    Strips build(const Level& level);

private:
    struct Key {
        std::vector<const TileGrid::Chunk*> chunks; ///< from top to bottom, with their rows in `rows`
        std::vector<int> rows;
        double cell_m = 0;
        Vec3 origin{0};
        const TileSheet* sheet = nullptr;
        Frame frame = Frame::side;
        bool operator==(const Key&) const = default;
    };
    struct Known {
        Key key;
        std::vector<Shared<TileGrid::Chunk>> held; ///< so that the key's pointers stay those of these chunks
        std::shared_ptr<const TileSheet> sheet;
        Strips strips;
    };
    void add_pictures(const Level& level, Strips& strips);

    std::map<std::pair<LayerId, int>, Known> known_;
    std::map<ItemId, std::pair<PlacedPicture, std::shared_ptr<const TileStrip>>> pictures_;
};

/// The cells of a level that is walked by them; nothing where no layer is solid.
std::shared_ptr<const WalkedCells> walked_cells(const Level& level);

} // namespace rubble::build
