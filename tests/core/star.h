#pragma once

#include <vector>

#include "base/angle.h"
#include "core/random.h"
#include "geometry/vec.h"

namespace rubble::test {

/// Points around the middle at random distances: a simple ring, concave in many places.
inline std::vector<Vec2> star(Random& random, int count) {
    std::vector<Vec2> out;
    for (int i = 0; i < count; ++i) {
        const auto [c, s] = cos_sin(360.0 * (i + random.between(0, 0.6)) / count);
        const double r = random.between(0.8, 5);
        out.push_back({c * r, s * r});
    }
    return out;
}

} // namespace rubble::test
