#pragma once

#include <map>
#include <optional>

#include "level/brush.h"

namespace rubble::edit {

// Massing: cells of a mass raised, sunk and tilted by the areas of its faces.

/// Squares of a mass's faces that look one way, and the grid line over which each one's matter ends. Over a
/// square without matter, raising begins at that line.
struct MassArea {
    int axis = 2; ///< along which they look: 0 x, 1 y, 2 z
    int way = 1;  ///< towards its high (1) or low (-1) end
    std::map<std::array<int, 2>, int>
        levels; ///< by the square's cells along the two axes after `axis`, round

    bool operator==(const MassArea&) const = default;
};

/// The cell along `axis` from a grid line inward.
inline int inner_cell(const MassArea& area, int line) { return area.way > 0 ? line - 1 : line; }

/// The squares of the rectangle between two, each where its matter ends nearest to `line`. Squares without
/// matter are taken at that line where `bare` says so, else left out.
MassArea area_between(const MassGrid& grid, int axis, int way, std::array<int, 2> a, std::array<int, 2> b,
                      int line, bool bare);
/// All squares in one piece with a square whose faces lie in its plane: those of one level, or of one slope.
MassArea area_alike(const MassGrid& grid, int axis, int way, std::array<int, 2> square, int line);
/// Both areas' squares; those of the first where they look another way.
MassArea joined(MassArea a, const MassArea& b);

/// The same squares where their matter ends now, nearest to where it did; those without any stay.
MassArea refreshed(const MassGrid& grid, const MassArea& area);

/// The corners of a square's surface, in cells from the mass's origin: low and high along the first axis,
/// then the same at the high end of the second.
std::array<Vec3, 4> surface_corners(const MassGrid& grid, const MassArea& area, std::array<int, 2> square);

/// The rectangle around an area's squares along its two axes, `high` the first beyond.
struct AreaBounds {
    std::array<int, 2> low{0, 0}, high{0, 0};
    /// Cells along an axis.
    int width(size_t i) const { return high[i] - low[i]; }
};
/// The least box of cells that holds an area.
AreaBounds bounds_of(const MassArea& area);

/// A mass after a change, with the same squares where they are then; as before where it was refused.
struct Massed {
    bool done = false;
    MassGrid grid;
    MassArea area;
};

/// The area moved outward by so many cells, inward where negative; slopes are kept.
Massed raised(const MassGrid& grid, const MassArea& area, int by);

/// One side of an area's rectangle, or a corner of it.
struct AreaEdge {
    int u = 0, v = 0; ///< -1 its low, 1 its high end along the first and second axis; 0 neither
    bool operator==(const AreaEdge&) const = default;
};
/// One side of the area lifted by so many cells while the one opposite stays; of a corner, the half of the
/// rectangle that it belongs to. Adds to the slope that is there. Refused where a slope becomes too steep
/// for the grid or more than one fold meets in a cell.
Massed tilted(const MassGrid& grid, const MassArea& area, const AreaEdge& edge, int by);

/// A stair of cells made one slope, from the outer side of its lowest row to that of its highest. Refused
/// unless the area is a rectangle whose rows rise one way.
Massed smoothed(const MassGrid& grid, const MassArea& area);

/// All matter below the area taken away, down to the next hollow.
Massed dug_through(const MassGrid& grid, const MassArea& area);

/// The same matter in cells half as large; nothing where they would be too small.
std::optional<MassGrid> refined(const MassGrid& grid);

/// Cells twice as large. A cell whose eighths cannot be one is full where at least half of them have matter;
/// `changed` counts the eighths that come out otherwise.
struct Coarsened {
    MassGrid grid;
    int changed = 0, cells = 0;
};
/// The same matter in cells twice as large, where that loses nothing; else what it loses.
std::optional<Coarsened> coarsened(const MassGrid& grid);

/// A mass as brushes of the same matter, one for each convex part: boxes, and bodies where slopes cut them.
std::vector<Brush> brushes_of(const Brush& mass);

/// A mass of one square of cells, one cell high, whose low corner is at `at`.
Brush mass_at(const Vec3& at, double cell_m);

} // namespace rubble::edit
