#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "base/shared.h"

namespace rubble {

/// The side a x + b y + c z <= d of a plane, in cells from a mass's origin.
struct CellPlane {
    int a = 0, b = 0, c = 0;
    int64_t d = 0;
    /// Above 0 outside, 0 on the plane.
    int64_t over(int x, int y, int z) const { return int64_t(a) * x + int64_t(b) * y + int64_t(c) * z - d; }
    auto operator<=>(const CellPlane&) const = default;
};

/// What is left of a cell that planes cut.
struct CellForm {
    std::vector<CellPlane> planes; ///< one or two
    bool either = false;           ///< matter is what is behind any of them, else what is behind all
    bool operator==(const CellForm&) const = default;
};

/// A cell: nothing, full, or cut.
struct Cell {
    bool matter = false;
    std::shared_ptr<const CellForm> form; ///< null: full

    /// Wholly matter.
    static Cell full() { return {true, {}}; }
    /// Whether it is wholly matter.
    bool is_full() const { return matter && !form; }
    bool operator==(const Cell& other) const {
        return matter == other.matter && (form == other.form || (form && other.form && *form == *other.form));
    }
};

/// Cells alike that lie over one another, from `low` up to below `high`.
struct CellRun {
    int low = 0, high = 0;
    Cell cell;
    bool operator==(const CellRun&) const = default;
};
/// What lies over one square of the grid, from below; runs that touch differ.
using CellColumn = std::vector<CellRun>;

/// A box of cells, `high` the first beyond it.
struct CellBox {
    std::array<int, 3> low{0, 0, 0}, high{0, 0, 0};
    bool empty() const { return low[0] >= high[0] || low[1] >= high[1] || low[2] >= high[2]; }
    bool operator==(const CellBox&) const = default;
};

/// 16 by 16 columns, which copies of a mass share while nothing in them changes.
struct MassChunk {
    static constexpr int size = 16;
    std::array<CellColumn, size_t(size) * size> columns;
    CellBox matter; ///< around all that it holds, x and y from its own corner

    /// The cells over a place in plan.
    const CellColumn& column(int x, int y) const { return columns[size_t(y) * size + size_t(x)]; }
    /// The cells over a place in plan.
    CellColumn& column(int x, int y) { return columns[size_t(y) * size + size_t(x)]; }
    bool operator==(const MassChunk&) const = default;
};

/// Bounds that keep a mass within what a brush may span and its planes within 64 bits.
inline constexpr double least_cell_m = 1.0 / 64, most_cell_m = 8;
inline constexpr int farthest_cell = 4096;
inline constexpr int steepest_cell = 1 << 14;

/// The cells of a mass, by squares of 16 by 16 columns; empty ones are not kept.
struct MassGrid {
    double cell_m = 1;
    std::map<std::array<int, 2>, Shared<MassChunk>> chunks;

    bool empty() const { return chunks.empty(); }
    Cell at(int x, int y, int z) const;
    /// The box around all matter.
    CellBox extent() const;
    bool operator==(const MassGrid&) const = default;
};

/// The chunk in which a column lies.
std::array<int, 2> chunk_of(int x, int y);

/// A plane with its numbers in lowest terms; nothing where they are too large to be built.
std::optional<CellPlane> in_lowest_terms(int64_t a, int64_t b, int64_t c, int64_t d);

/// The cell at a place that a form leaves: nothing or full where no plane of it goes through.
Cell cell_of(const CellForm& form, int x, int y, int z);

/// A mass being changed. Only the chunks in which something changes are copied.
class MassEditor {
public:
    explicit MassEditor(MassGrid grid) : grid_(std::move(grid)) {}

    Cell at(int x, int y, int z) const;
    /// The cells over a place in plan.
    const CellColumn& column(int x, int y) const;
    /// Makes one cell another.
    void set(int x, int y, int z, const Cell& cell) { set(x, y, z, z + 1, cell); }
    /// All of a column from `low` up to below `high`.
    void set(int x, int y, int low, int high, const Cell& cell);
    /// Chunks that come out as they were stay the very same.
    MassGrid finished();

private:
    MassChunk& chunk(const std::array<int, 2>& key);

    MassGrid grid_;
    std::map<std::array<int, 2>, MassChunk> changed_;
};

/// The mirror image in the plane across the first (0) or second (1) axis through the origin.
MassGrid mirrored(const MassGrid& grid, int axis);

/// A convex part of a mass: a box of cells behind planes.
struct MassPart {
    CellBox box;
    std::vector<CellPlane> planes;
    bool operator==(const MassPart&) const = default;
};

/// The matter of a mass in convex parts, large ones where columns are alike; each lies within one chunk.
/// Parts may overlap where a cell is cut by either of two planes.
std::vector<MassPart> parts_of(const MassGrid& grid);

} // namespace rubble
