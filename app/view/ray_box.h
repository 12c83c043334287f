#pragma once

#include <algorithm>
#include <cmath>
#include <optional>

#include "view/camera.h"

namespace rubble::app {

/// One over a ray's direction. A direction along an axis never leaves its slab: a very long way stands for
/// never.
inline Vec3 inverse_way(const Ray& ray) {
    Vec3 inverse;
    for (int axis = 0; axis < 3; ++axis) {
        const double way = ray.direction[axis];
        inverse[axis] = 1 / (std::abs(way) < 1e-12 ? std::copysign(1e-12, way) : way);
    }
    return inverse;
}

/// How far along a ray enters a box; nothing where it misses it: the slabs of Kay and Kajiya, "Ray Tracing
/// Complex Scenes" (1986).
inline std::optional<double> entry_of(const Ray& ray, const Vec3& inverse, const Box3& box) {
    const Vec3 a = (box.low - ray.from) * inverse, b = (box.high - ray.from) * inverse;
    const Vec3 near = glm::min(a, b), far = glm::max(a, b);
    const double enters = std::max({near.x, near.y, near.z, 0.0}), leaves = std::min({far.x, far.y, far.z});
    if (enters > leaves) return {};
    return enters;
}

} // namespace rubble::app
