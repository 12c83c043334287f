#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

namespace rubble::geometry {

/// Pixels that are set or not, row by row.
struct Raster {
    int columns = 0, rows = 0;
    std::vector<uint8_t> set;

    /// False outside.
    bool at(int column, int row) const {
        return column >= 0 && row >= 0 && column < columns && row < rows && set[index(column, row)] != 0;
    }
    size_t index(int column, int row) const { return size_t(row) * size_t(columns) + size_t(column); }
};

/// The middle lines of what is set, one pixel wide: as connected as it was (pixels touch along their sides),
/// with as many holes, and its ends kept. Borders are taken off from the four sides in turn as long as a
/// pixel's connectivity number is 1 (Yokoi, Toriwaki, Fukumura 1975; Rosenfeld 1975).
Raster thinned(Raster raster);

} // namespace rubble::geometry
