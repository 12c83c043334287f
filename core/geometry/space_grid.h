#pragma once

#include <cmath>
#include <cstdint>
#include <vector>

#include "base/flat_index.h"
#include "geometry/vec.h"

namespace rubble::geometry {

/// Things with boxes in space, found by where they are, that come and go: a uniform grid of cells. Boxes over
/// very many cells are kept apart and looked at one by one, so that one floor under everything does not fill
/// the grid.
template <class T> class SpaceGrid {
public:
    explicit SpaceGrid(double cell_m = 4) : cell_m_(cell_m) {}

    /// Puts a thing into the cells that its box touches.
    void add(T thing, const Box3& box) {
        if (box.empty()) return;
        if (is_large(box)) {
            large_.push_back({box, thing});
            return;
        }
        for_cells(box, [&](const Cell& cell) {
            const int fresh = int(buckets_.size());
            const int at = index_.find_or_add(hash_of(cell), fresh,
                                              [&](int i) { return buckets_[size_t(i)].cell == cell; });
            if (at == fresh) buckets_.push_back({cell, {}});
            buckets_[size_t(at)].entries.push_back({box, thing});
        });
    }

    /// Takes out what was added with this very box.
    void remove(T thing, const Box3& box) {
        if (box.empty()) return;
        auto take = [&](std::vector<Entry>& entries) {
            for (Entry& entry : entries)
                if (entry.thing == thing) {
                    entry = entries.back();
                    entries.pop_back();
                    return;
                }
        };
        if (is_large(box)) return take(large_);
        for_cells(box, [&](const Cell& cell) {
            if (const int at = bucket_at(cell); at >= 0) take(buckets_[size_t(at)].entries);
        });
    }

    /// Calls `visit(thing)` once for everything whose box touches `box`, in no order that means anything.
    template <class F> void for_touching(const Box3& box, F visit) const {
        for (const Entry& entry : large_)
            if (entry.box.touches(box)) visit(entry.thing);
        if (is_large(box)) {
            for (const Bucket& bucket : buckets_)
                for (const Entry& entry : bucket.entries)
                    if (cell_of(entry.box.low) == bucket.cell && entry.box.touches(box)) visit(entry.thing);
            return;
        }
        for_cells(box, [&](const Cell& cell) {
            const int at = bucket_at(cell);
            if (at < 0) return;
            for (const Entry& entry : buckets_[size_t(at)].entries)
                // Both may share many cells: it counts in the lowest one.
                if (entry.box.touches(box) && cell_of(glm::max(box.low, entry.box.low)) == cell)
                    visit(entry.thing);
        });
    }

private:
    static constexpr double k_most_cells = 64;
    using Cell = glm::i64vec3;
    struct Entry {
        Box3 box;
        T thing;
    };
    struct Bucket {
        Cell cell;
        std::vector<Entry> entries;
    };

    Cell cell_of(const Vec3& p) const { return Cell(glm::floor(p / cell_m_)); }
    bool is_large(const Box3& box) const {
        const Vec3 cells = (box.high - box.low) / cell_m_ + 1.0;
        return cells.x * cells.y * cells.z > k_most_cells;
    }
    template <class F> void for_cells(const Box3& box, F visit) const {
        const Cell low = cell_of(box.low), high = cell_of(box.high);
        for (auto x = low.x; x <= high.x; ++x)
            for (auto y = low.y; y <= high.y; ++y)
                for (auto z = low.z; z <= high.z; ++z) visit(Cell(x, y, z));
    }
    static uint64_t hash_of(const Cell& c) {
        const uint64_t h =
            (uint64_t(c.x) * 0x9e3779b97f4a7c15u + uint64_t(c.y)) * 0xff51afd7ed558ccdu + uint64_t(c.z);
        return (h ^ h >> 32) * 0xc4ceb9fe1a85ec53u >> 16;
    }
    int bucket_at(const Cell& cell) const {
        return index_.find(hash_of(cell), [&](int i) { return buckets_[size_t(i)].cell == cell; });
    }

    double cell_m_;
    std::vector<Entry> large_;
    std::vector<Bucket> buckets_;
    FlatIndex index_;
};

} // namespace rubble::geometry
