#include "geometry/thinning.h"

#include <array>

namespace rubble::geometry {

namespace {

/// Counter-clockwise from the right, rows downwards.
constexpr std::array<std::array<int, 2>, 8> k_around{
    {{1, 0}, {1, -1}, {0, -1}, {-1, -1}, {-1, 0}, {-1, 1}, {0, 1}, {1, 1}}};

int sides_of(const Raster& raster, int column, int row) {
    int count = 0;
    for (size_t k = 0; k < 8; k += 2) count += raster.at(column + k_around[k][0], row + k_around[k][1]);
    return count;
}

/// Whether a pixel can go without anything coming apart or closing.
bool can_go(const Raster& raster, int column, int row) {
    std::array<int, 10> x{};
    for (size_t k = 0; k < 8; ++k) x[k] = raster.at(column + k_around[k][0], row + k_around[k][1]);
    x[8] = x[0], x[9] = x[1];
    int connectivity = 0;
    for (size_t k = 0; k < 8; k += 2) connectivity += x[k] - x[k] * x[k + 1] * x[k + 2];
    return connectivity == 1;
}

} // namespace

Raster thinned(Raster raster) {
    // Only what lies at a border can go, and what lay beside that.
    std::vector<int> border;
    std::vector<uint8_t> listed(raster.set.size(), 0);
    const auto list = [&](int column, int row) {
        if (!raster.at(column, row)) return;
        const size_t i = raster.index(column, row);
        if (!listed[i]) listed[i] = 1, border.push_back(int(i));
    };
    const auto bare_at = [&](int i, size_t side) {
        return !raster.at(i % raster.columns + k_around[side][0], i / raster.columns + k_around[side][1]);
    };
    for (size_t i = 0; i < raster.set.size(); ++i)
        for (const size_t side : {0u, 2u, 4u, 6u})
            if (bare_at(int(i), side)) list(int(i) % raster.columns, int(i) / raster.columns);
    for (bool went = true; went;) {
        went = false;
        for (const size_t side : {2u, 6u, 0u, 4u}) {
            // All that lie bare on this side now and are no ends of lines; what becomes so by it has its turn
            // afterwards.
            std::vector<int> bare;
            for (const int i : border)
                if (raster.set[size_t(i)] && bare_at(i, side) &&
                    sides_of(raster, i % raster.columns, i / raster.columns) >= 2)
                    bare.push_back(i);
            for (const int i : bare) {
                const int column = i % raster.columns, row = i / raster.columns;
                if (!can_go(raster, column, row)) continue;
                raster.set[size_t(i)] = 0, went = true;
                for (size_t k = 0; k < 8; k += 2) list(column + k_around[k][0], row + k_around[k][1]);
            }
        }
        std::erase_if(border, [&](int i) { return !raster.set[size_t(i)]; });
    }
    return raster;
}

} // namespace rubble::geometry
