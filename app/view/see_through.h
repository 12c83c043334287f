#pragma once

#include <functional>
#include <optional>

#include "view/camera.h"
#include "view/picking.h"

namespace rubble::app {

/// A hole in what stands between the eye and what is worked on: within a circle on the screen all that is
/// nearer is only dotted, and the pointer goes through it. The ground that what is worked on stands on stays.
struct SeeThrough {
    Vec3 eye{0}, forward{0};
    QPointF middle; ///< on the screen
    double radius_px = 0;
    double depth_m = 0;     ///< of the nearest of what is worked on
    double ground_z = -1e9; ///< nothing at or below this is seen through

    bool covers(const Vec3& at, QPointF screen) const;
};

/// Nothing where the view is flat, or where most of the box can be seen. `met` is what a ray meets first,
/// other than what is worked on itself.
std::optional<SeeThrough> see_through_to(const Box3& worked_on, const Camera& camera,
                                         const std::function<std::optional<Hit>(const Ray&)>& met);

} // namespace rubble::app
