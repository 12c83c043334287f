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
        std::vector<Cells> covered;
        covered.reserve(boxes.size());
        size_t spots = 0;
        for (const Box2& box : boxes) {
            covered.push_back(box.empty() ? Cells{} : Cells{cell_of(box.low), cell_of(box.high)});
            if (covered.back().count() <= k_most_cells) spots += size_t(covered.back().count());
        }
        index_ = FlatIndex(spots);
        std::vector<int> bucket_of_spot;
        bucket_of_spot.reserve(spots);
        for (int i = 0; i < int(boxes.size()); ++i) {
            const Cells& cells = covered[size_t(i)];
            if (!(cells.count() <= k_most_cells))
                large_.push_back({boxes[size_t(i)], i});
            else
                count(cells, bucket_of_spot);
        }
        int first = 0;
        for (Bucket& bucket : buckets_) bucket.first = first, first += bucket.count, bucket.count = 0;
        entries_.resize(bucket_of_spot.size());
        size_t spot = 0;
        for (int i = 0; i < int(boxes.size()); ++i) {
            const double cells = covered[size_t(i)].count();
            if (!(cells <= k_most_cells)) continue;
            for (const size_t end = spot + size_t(cells); spot < end; ++spot) {
                Bucket& bucket = buckets_[size_t(bucket_of_spot[spot])];
                entries_[size_t(bucket.first + bucket.count++)] = {boxes[size_t(i)], i};
            }
        }
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
                    index_.find(hash_of(here), [&](int i) { return buckets_[size_t(i)].cell == here; });
                if (at < 0) continue;
                const Bucket& bucket = buckets_[size_t(at)];
                for (int e = bucket.first; e < bucket.first + bucket.count; ++e) {
                    const Entry& entry = entries_[size_t(e)];
                    if (!entry.box.touches(area)) continue;
                    // In many cells, reported from the lowest one it shares with the area.
                    const Cell first = cell_of(entry.box.low);
                    if (std::max(first.x, low.x) == x && std::max(first.y, low.y) == y)
                        visit(entry.box_index);
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
    /// From the lowest to the highest that a box touches.
    struct Cells {
        Cell low{0, 0}, high{-1, -1};
        double count() const { return (high.x - low.x + 1.0) * (high.y - low.y + 1.0); }
    };
    struct Entry {
        Box2 box;
        int box_index = -1;
    };
    struct Bucket {
        Cell cell;
        int first = 0, count = 0; ///< of the entries
    };

    /// `std::floor`, which is a call of its own where the processor is not known to do it.
    static double floor_of(double v) {
        if (!(std::abs(v) < 4e15)) return v; // whole already
        const double whole = double(int64_t(v));
        return whole > v ? whole - 1 : whole;
    }
    static Cell cell_of(Vec2 p) { return {floor_of(p.x / k_cell_m), floor_of(p.y / k_cell_m)}; }
    static uint64_t hash_of(const Cell& cell) {
        const uint64_t h = uint64_t(int64_t(cell.x)) * 0x9e3779b97f4a7c15u + uint64_t(int64_t(cell.y));
        return (h ^ h >> 32) * 0xff51afd7ed558ccdu >> 16;
    }

    /// Counts a box in each of its cells, whose buckets it adds to a list.
    void count(const Cells& cells, std::vector<int>& bucket_of_spot) {
        for (double x = cells.low.x; x <= cells.high.x; ++x)
            for (double y = cells.low.y; y <= cells.high.y; ++y) {
                const Cell here{x, y};
                const int fresh = int(buckets_.size());
                const int at = index_.find_or_add(hash_of(here), fresh,
                                                  [&](int i) { return buckets_[size_t(i)].cell == here; });
                if (at == fresh) buckets_.push_back({here, 0, 0});
                ++buckets_[size_t(at)].count;
                bucket_of_spot.push_back(at);
            }
        if (cells.count() < 1) return;
        low_ = {std::min(low_.x, cells.low.x), std::min(low_.y, cells.low.y)};
        high_ = {std::max(high_.x, cells.high.x), std::max(high_.y, cells.high.y)};
    }

    std::vector<Entry> large_, entries_; ///< those of a cell one after the other
    std::vector<Bucket> buckets_;
    FlatIndex index_;
    Cell low_{1e300, 1e300}, high_{-1e300, -1e300}; ///< of all cells
};

} // namespace rubble::geometry
