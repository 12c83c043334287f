#include "edit/working_plane.h"

#include <cmath>

#include <glm/common.hpp>

#include "geometry/exact.h"
#include "level/brush_shape.h"

namespace rubble::edit {

WorkingPlane plane_of_face(const Vec3& at, const Vec3& normal) {
    WorkingPlane plane;
    plane.at = at;
    constexpr double k_level = 1 - 1e-9; // below a thousandth of a degree nobody means a slope
    if (std::abs(normal.z) > k_level) return plane;
    plane.n = glm::normalize(normal);
    plane.u = glm::normalize(glm::cross(Vec3(0, 0, 1), plane.n));
    plane.v = glm::cross(plane.n, plane.u);
    return plane;
}

Vec3 without_noise(const Vec3& place) {
    return glm::round(place * geometry::ticks_per_metre) / geometry::ticks_per_metre;
}

Brush placed_on(Brush brush, const WorkingPlane& plane) {
    const Vec3 at = without_noise(plane.to_level(brush.place.at));
    brush.size = without_noise(brush.size);
    if (!plane.is_level()) {
        const auto way = [&](const Vec3& own) {
            const Vec3 d = brush.place.direction(own);
            return plane.u * d.x + plane.v * d.y + plane.n * d.z;
        };
        brush.place.rotation = rotation_onto(way({1, 0, 0}), way({0, 1, 0}), way({0, 0, 1}));
        brush.place.turn_deg = 0; // is in it
    }
    brush.place.at = at;
    return measured(std::move(brush)); // as a reader would find it
}

} // namespace rubble::edit
