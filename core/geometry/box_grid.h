#pragma once

#include <cmath>
#include <cstdint>
#include <vector>

#include "base/flat_index.h"
#include "geometry/vec.h"

namespace rubble::geometry {

/// Boxes in the plane, found by where they are: a uniform grid of cells, built once. Boxes over very many
/// cells are kept apart and looked at one by one; empty ones are found nowhere.
class BoxGrid {
public:
    BoxGrid() = default;
    explicit BoxGrid(const std::vector<Box2>& boxes) {
        size_t spots = 0;
        for (const Box2& box : boxes) {
            if (box.empty()) continue;
            const Cell low = cell_of(box.low), high = cell_of(box.high);
            const double covered = (high.x - low.x + 1.0) * (high.y - low.y + 1.0);
            if (covered <= k_most_cells) spots += size_t(covered);
        }
        index_ = FlatIndex(spots);
        for (int i = 0; i < int(boxes.size()); ++i)
            if (!boxes[size_t(i)].empty()) add(boxes[size_t(i)], i);
    }

    /// Calls `visit(i)` once for every box `i` that touches `area`, in an order that depends on the boxes
    /// alone.
    template <class F> void for_near(const Box2& area, F visit) const {
        for (const Entry& entry : large_)
            if (entry.box.touches(area)) visit(entry.box_index);
        // Far out, and in an area that is larger than all that is here, there are no cells to look into.
        const Cell wanted_low = cell_of(area.low), wanted_high = cell_of(area.high);
        const Cell low{std::max(wanted_low.x, low_.x), std::max(wanted_low.y, low_.y)},
            high{std::min(wanted_high.x, high_.x), std::min(wanted_high.y, high_.y)};
        for (double x = low.x; x <= high.x; ++x)
            for (double y = low.y; y <= high.y; ++y) {
                const Cell here{x, y};
                const int at =
                    index_.find(hash_of(here), [&](int i) { return cells_[size_t(i)].cell == here; });
                if (at < 0) continue;
                for (const Entry& entry : cells_[size_t(at)].entries) {
                    // In many cells, reported from the lowest one it shares with the area.
                    if (std::max(entry.first.x, low.x) != x || std::max(entry.first.y, low.y) != y) continue;
                    if (entry.box.touches(area)) visit(entry.box_index);
                }
            }
    }

private:
    static constexpr double k_cell_m = 2;
    static constexpr double k_most_cells = 256;

    struct Cell {
        double x = 0, y = 0; ///< whole numbers; beyond those of int far out
        bool operator==(const Cell&) const = default;
    };
    struct Entry {
        Box2 box;
        Cell first; ///< the lowest cell of the box
        int box_index;
    };
    struct Bucket {
        Cell cell;
        std::vector<Entry> entries;
    };

    static Cell cell_of(Vec2 p) { return {std::floor(p.x / k_cell_m), std::floor(p.y / k_cell_m)}; }
    static uint64_t hash_of(const Cell& cell) {
        const uint64_t h = uint64_t(int64_t(cell.x)) * 0x9e3779b97f4a7c15u + uint64_t(int64_t(cell.y));
        return (h ^ h >> 32) * 0xff51afd7ed558ccdu >> 16;
    }

    void add(const Box2& box, int index) {
        const Cell low = cell_of(box.low), high = cell_of(box.high);
        if ((high.x - low.x + 1) * (high.y - low.y + 1) > k_most_cells) {
            large_.push_back({box, low, index});
            return;
        }
        for (double x = low.x; x <= high.x; ++x)
            for (double y = low.y; y <= high.y; ++y) {
                const Cell here{x, y};
                const int fresh = int(cells_.size());
                const int at = index_.find_or_add(hash_of(here), fresh,
                                                  [&](int i) { return cells_[size_t(i)].cell == here; });
                if (at == fresh) cells_.push_back({here, {}});
                cells_[size_t(at)].entries.push_back({box, low, index});
            }
        low_ = {std::min(low_.x, low.x), std::min(low_.y, low.y)};
        high_ = {std::max(high_.x, high.x), std::max(high_.y, high.y)};
    }

    std::vector<Entry> large_;
    std::vector<Bucket> cells_;
    FlatIndex index_;
    Cell low_{1e300, 1e300}, high_{-1e300, -1e300}; ///< of all cells
};

} // namespace rubble::geometry
