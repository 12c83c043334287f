// How long one edit of a large mass takes, and of how many convex cells it is built. Run a release build on
// an idle machine; docs/figures.md keeps the figures.

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <random>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "edit/items.h"
#include "edit/massing.h"
#include "level/brush_shape.h"

using namespace rubble;

namespace {

constexpr int k_side = 512, k_height = 64;

double now_ms() {
    using namespace std::chrono;
    return duration<double, std::milli>(steady_clock::now().time_since_epoch()).count();
}

/// Plateaus that lie over each other, half of the height on average.
MassGrid terraces() {
    std::mt19937_64 engine(11);
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(engine);
    };
    std::vector<int> heights(size_t(k_side) * k_side, k_height / 2);
    for (int i = 0; i < 12'000; ++i) {
        const int x = whole(0, k_side - 1), y = whole(0, k_side - 1), height = whole(1, k_height - 1);
        const int width = whole(4, 14), depth = whole(4, 14);
        for (int v = y; v < std::min(y + depth, k_side); ++v)
            for (int u = x; u < std::min(x + width, k_side); ++u)
                heights[size_t(v) * k_side + size_t(u)] = height;
    }
    MassEditor cells(MassGrid{0.5, {}});
    for (int y = 0; y < k_side; ++y)
        for (int x = 0; x < k_side; ++x)
            cells.set(x, y, 0, heights[size_t(y) * k_side + size_t(x)], Cell::full());
    return cells.finished();
}

int top_of(const MassGrid& grid, int x, int y) {
    int top = 0;
    while (grid.at(x, y, top).matter) ++top;
    return top;
}

/// Connected columns of one height.
int plateaus_of(const MassGrid& grid) {
    std::vector<int> heights(size_t(k_side) * k_side);
    for (int i = 0; i < k_side * k_side; ++i) heights[size_t(i)] = top_of(grid, i % k_side, i / k_side);
    int count = 0;
    std::vector<bool> seen(heights.size());
    std::vector<int> open;
    for (int first = 0; first < k_side * k_side; ++first) {
        if (seen[size_t(first)]) continue;
        ++count;
        seen[size_t(first)] = true;
        open = {first};
        while (!open.empty()) {
            const int at = open.back(), x = at % k_side, y = at / k_side;
            open.pop_back();
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                if (x + dx < 0 || x + dx >= k_side || y + dy < 0 || y + dy >= k_side) continue;
                const int next = at + dx + dy * k_side;
                if (seen[size_t(next)] || heights[size_t(next)] != heights[size_t(at)]) continue;
                seen[size_t(next)] = true;
                open.push_back(next);
            }
        }
    }
    return count;
}

/// Cells that nothing lies before on at least one side.
long surface_cells_of(const MassGrid& grid) {
    long count = 0;
    for (int y = 0; y < k_side; ++y)
        for (int x = 0; x < k_side; ++x)
            for (int z = 0; grid.at(x, y, z).matter; ++z)
                count += !(grid.at(x + 1, y, z).matter && grid.at(x - 1, y, z).matter &&
                           grid.at(x, y + 1, z).matter && grid.at(x, y - 1, z).matter &&
                           grid.at(x, y, z + 1).matter && grid.at(x, y, z - 1).matter);
    return count;
}

} // namespace

int main() {
    Brush mass;
    mass.shape = Shape::mass;
    mass.cells = terraces();
    const size_t cells = parts_of(mass.cells).size();
    const long surface_cells = surface_cells_of(mass.cells);
    std::printf(
        "512 x 512 x 64 cells: plateaus of %.1f cells, %zu convex cells for %ld surface cells, %.1f %%\n",
        double(k_side) * k_side / plateaus_of(mass.cells), cells, surface_cells,
        100.0 * double(cells) / double(surface_cells));
    Level level = new_level("Mass", {"courier"});
    level = edit::with_item(level, 0, Item{{"mass"}, {}, false, measured(mass), {}});
    build::SolidBuilder solids;
    build::SurfaceBuilder surfaces;
    double begin = now_ms();
    surfaces.build(solids.build(level));
    std::printf("from nothing: %.0f ms\n", now_ms() - begin);
    std::mt19937_64 engine(7);
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(engine);
    };
    std::vector<double> edits, all;
    for (int i = 0; i < 200; ++i) {
        Item item = *find_item(level, {"mass"});
        Brush brush = *item.brush();
        const int x = whole(0, k_side - 20), y = whole(0, k_side - 20);
        begin = now_ms();
        const auto area =
            edit::area_between(brush.cells, 2, 1, {x, y}, {x + whole(0, 15), y + whole(0, 15)}, 64, false);
        const auto changed = i % 3 ? edit::raised(brush.cells, area, i % 2 ? 1 : -1)
                                   : edit::tilted(brush.cells, area, {1, 0}, 4);
        if (!changed.done) continue;
        brush.cells = changed.grid;
        item.body = measured(brush);
        level = edit::with_changed(level, item);
        const double edited = now_ms();
        const build::Solid solid = solids.build(level);
        surfaces.build(solid);
        edits.push_back(edited - begin), all.push_back(now_ms() - begin);
    }
    std::sort(edits.begin(), edits.end()), std::sort(all.begin(), all.end());
    std::printf("one area of up to 16 x 16 raised, sunk or tilted, %zu times: the cells median %.1f ms, with "
                "solid and "
                "surface median %.1f ms, 99 %% %.1f ms\n",
                all.size(), edits[edits.size() / 2], all[all.size() / 2], all[all.size() * 99 / 100]);
}
