#include "build/neighbours.h"

#include <cmath>
#include <unordered_map>

namespace rubble::build {

namespace {

/// A box that covers more cells than this is compared with every other.
constexpr double k_most_cells = 64;

struct CellHash {
    size_t operator()(const glm::i64vec3& c) const {
        return size_t(c.x) * 73856093u ^ size_t(c.y) * 19349663u ^ size_t(c.z) * 83492791u;
    }
};

double usual_size(const std::vector<Box3>& boxes) {
    double sum = 0;
    for (const Box3& box : boxes) {
        const Vec3 size = box.high - box.low;
        sum += std::cbrt(std::max(size.x, 1e-3) * std::max(size.y, 1e-3) * std::max(size.z, 1e-3));
    }
    return std::max(0.25, 1.5 * sum / double(std::max<size_t>(boxes.size(), 1)));
}

} // namespace

std::vector<std::vector<int>> touching(const std::vector<Box3>& boxes) {
    std::vector<std::vector<int>> out(boxes.size());
    const double cell = usual_size(boxes);
    auto cell_of = [&](const Vec3& p) { return glm::i64vec3(glm::floor(p / cell)); };
    auto is_large = [&](const Box3& box) {
        const Vec3 cells = (box.high - box.low) / cell + 1.0;
        return cells.x * cells.y * cells.z > k_most_cells;
    };

    std::unordered_map<glm::i64vec3, std::vector<int>, CellHash> grid;
    std::vector<int> large;
    auto for_cells = [&](const Box3& box, auto&& visit) {
        const glm::i64vec3 low = cell_of(box.low), high = cell_of(box.high);
        for (auto x = low.x; x <= high.x; ++x)
            for (auto y = low.y; y <= high.y; ++y)
                for (auto z = low.z; z <= high.z; ++z) visit(glm::i64vec3(x, y, z));
    };
    auto join = [&](int a, int b) { out[size_t(a)].push_back(b), out[size_t(b)].push_back(a); };

    for (int i = 0; i < int(boxes.size()); ++i) {
        const Box3& box = boxes[size_t(i)];
        if (box.empty()) continue;
        if (is_large(box)) {
            for (int k = 0; k < i; ++k)
                if (box.touches(boxes[size_t(k)])) join(i, k);
            large.push_back(i);
            continue;
        }
        for (int k : large)
            if (box.touches(boxes[size_t(k)])) join(i, k);
        for_cells(box, [&](const glm::i64vec3& at) {
            auto& here = grid[at];
            for (int k : here) {
                const Box3& other = boxes[size_t(k)];
                // Both may share many cells: count the pair only in the lowest one.
                if (box.touches(other) && cell_of(glm::max(box.low, other.low)) == at) join(i, k);
            }
            here.push_back(i);
        });
    }
    for (auto& list : out) std::sort(list.begin(), list.end());
    return out;
}

} // namespace rubble::build
