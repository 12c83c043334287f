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
    int brush = -1; ///< index into the solid's brushes; -1: of none
    BoxSide side = BoxSide::top;
    ItemId item = {};   ///< of a piece of a kit, which has no brush
    FaceName face = {}; ///< of the brush
};

/// The boxes of all parts of a surface side by side: a ray goes past nearly all of them, and to look for each
/// where its part lies in memory took up to 5 ms of 10,000 brushes when that was not in the cache.
struct PickBoxes {
    struct Part {
        Box3 box;
        int brush;
        const build::SurfacePart* part;
    };
    std::vector<Part> parts;   ///< those of a brush one after the other, in the order of brushes
    std::vector<size_t> first; ///< of each brush, and the end
    SharedList<std::shared_ptr<const build::BrushSurface>> brushes; ///< which the parts belong to
};
/// Made from those before where only some brushes have other parts.
PickBoxes boxes_of(const build::Surface& surface, const PickBoxes* before = nullptr);

/// The first seen face of the surface that the ray meets from outside, none above `cut_z`.
std::optional<Hit> pick(const build::Surface& surface, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z);
std::optional<Hit> pick(const PickBoxes& boxes, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z);

/// Where the ray meets a plane through `at`; nothing when it runs along it or away from it.
std::optional<Vec3> meet_plane(const Ray& ray, const Vec3& at, const Vec3& normal);
/// The parameter on the line `at + t·axis` nearest to the ray.
double nearest_along(const Ray& ray, const Vec3& at, const Vec3& axis);

} // namespace rubble::app
