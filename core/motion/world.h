#pragma once

#include <unordered_map>
#include <vector>

#include "build/solid.h"
#include "motion/column.h"

namespace rubble::motion {

/// All matter that the character can meet, in columns, found through a uniform grid in plan. Columns over
/// very many cells are kept apart and looked at one by one.
class World {
public:
    World() = default;
    explicit World(std::vector<Column> columns);

    const std::vector<Column>& columns() const { return columns_; }
    double lowest() const { return lowest_; }

    /// Calls `visit(index)` once for every column whose box in plan touches `area`.
    template <class F> void for_near(const Box2& area, F visit) const {
        for (int i : large_)
            if (columns_[size_t(i)].box.touches(area)) visit(i);
        const int64_t x0 = index(area.low.x), x1 = index(area.high.x);
        const int64_t y0 = index(area.low.y), y1 = index(area.high.y);
        for (int64_t x = x0; x <= x1; ++x)
            for (int64_t y = y0; y <= y1; ++y) {
                const auto cell = cells_.find(key(x, y));
                if (cell == cells_.end()) continue;
                for (int i : cell->second) {
                    const Box2& box = columns_[size_t(i)].box;
                    // Seen from many cells, reported from the lowest one they share.
                    if (std::max(index(box.low.x), x0) != x || std::max(index(box.low.y), y0) != y) continue;
                    if (box.touches(area)) visit(i);
                }
            }
    }

private:
    static constexpr double k_cell_m = 2;
    static int64_t index(double v) { return int64_t(std::floor(v / k_cell_m)); }
    static uint64_t key(int64_t x, int64_t y) { return uint64_t(x) << 32 ^ (uint64_t(y) & 0xffffffffu); }

    std::vector<Column> columns_;
    std::vector<int> large_;
    std::unordered_map<uint64_t, std::vector<int>> cells_;
    double lowest_ = 0;
};

World world_of(const build::Solid& solid);

/// The body of a character as it stands or crouches: the middle of its bottom, its radius and height.
struct Body {
    Vec3 at{0};
    double radius = 0;
    double height = 0;
};

/// How deep the body is in matter, by the shortest way out of the column it is deepest in; 0 when free.
double overlap_m(const World& world, const Body& body);

/// The highest top of matter under the body's disc at or below `at.z + up`, no lower than `at.z - down`.
struct Support {
    double height = 0;
    int column = -1;
};
std::optional<Support> support_below(const World& world, const Body& body, double up, double down);

} // namespace rubble::motion
