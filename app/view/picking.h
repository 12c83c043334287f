#pragma once

#include <optional>

#include "build/surface.h"
#include "view/camera.h"

namespace rubble::app {

/// What lies under the pointer.
struct Hit {
    double along = 0; ///< on the ray, metres
    Vec3 at{0};
    Vec3 normal{0, 0, 1};
    int brush = -1; ///< index into the solid's brushes
    BoxSide side = BoxSide::top;
};

/// The first seen face of the surface that the ray meets from outside, none above `cut_z`.
std::optional<Hit> pick(const build::Surface& surface, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z);

/// Where the ray meets a plane through `at`; nothing when it runs along it or away from it.
std::optional<Vec3> meet_plane(const Ray& ray, const Vec3& at, const Vec3& normal);
/// The parameter on the line `at + t·axis` nearest to the ray.
double nearest_along(const Ray& ray, const Vec3& at, const Vec3& axis);

} // namespace rubble::app
