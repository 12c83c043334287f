#pragma once

#include <algorithm>
#include <cstdint>
#include <utility>
#include <vector>

#include "geometry/vec.h"

namespace rubble::geometry {

/// The number of a place along a curve that fills space and passes what is near in space soon after each
/// other: the bits of its coordinates by turns (Morton, "A computer oriented geodetic data base", 1966).
inline uint64_t number_along_curve(const Vec3& at_m) {
    const auto spread = [](double m) { // one bit, two of the others, and so on
        auto v = uint64_t(std::clamp(m + double(1 << 20), 0.0, double((1 << 21) - 1)));
        v = (v | v << 32) & 0x1f00000000ffff;
        v = (v | v << 16) & 0x1f0000ff0000ff;
        v = (v | v << 8) & 0x100f00f00f00f00f;
        v = (v | v << 4) & 0x10c30c30c30c30c3;
        return (v | v << 2) & 0x1249249249249249;
    };
    return spread(at_m.x) | spread(at_m.y) << 1 | spread(at_m.z) << 2;
}

/// Orders things so that those near each other in space are near each other in the list, and with them the
/// memory that work on one after the other takes. `place_of(thing)` is in metres.
template <class T, class PlaceOf> void sort_along_curve(std::vector<T>& things, PlaceOf place_of) {
    std::vector<std::pair<uint64_t, T>> numbered;
    numbered.reserve(things.size());
    for (T& thing : things) numbered.emplace_back(number_along_curve(place_of(thing)), std::move(thing));
    std::stable_sort(numbered.begin(), numbered.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    for (size_t i = 0; i < things.size(); ++i) things[i] = std::move(numbered[i].second);
}

} // namespace rubble::geometry
