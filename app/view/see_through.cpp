#include "view/see_through.h"

#include <algorithm>
#include <cmath>

#include "tools/catch_distance.h"

namespace rubble::app {

namespace {

constexpr double k_least_px = 70, k_most_part = 0.45, k_room = 1.3;
constexpr double k_on_ground_m = 0.05, k_in_front_m = 0.02;

} // namespace

bool SeeThrough::covers(const Vec3& at, QPointF screen) const {
    return distance(screen, middle) < radius_px && glm::dot(at - eye, forward) < depth_m && at.z > ground_z;
}

std::optional<SeeThrough> see_through_to(const Box3& box, const Camera& camera,
                                         const std::function<std::optional<Hit>(const Ray&)>& met) {
    if (camera.flat() || box.empty()) return {};
    const auto middle = camera.to_screen(box.middle());
    if (!middle) return {};
    SeeThrough hole{camera.eye(), camera.forward(), *middle, 0, std::numeric_limits<double>::infinity()};
    // The middle, and the corners a little inside, so that they stand free of what they touch.
    std::vector<Vec3> places{box.middle()};
    for (int i = 0; i < 8; ++i) {
        const Vec3 corner(i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                          i & 4 ? box.high.z : box.low.z);
        hole.depth_m = std::min(hole.depth_m, glm::dot(corner - hole.eye, hole.forward));
        if (const auto at = camera.to_screen(corner))
            hole.radius_px = std::max(hole.radius_px, distance(*at, *middle));
        places.push_back(glm::mix(box.middle(), corner, 0.9));
    }
    if (hole.depth_m <= 0) return {}; // the eye is among it
    int hidden = 0;
    for (const Vec3& place : places) {
        const Vec3 way = place - hole.eye;
        const double far = glm::length(way);
        const auto hit = met({hole.eye, way / far});
        hidden += hit && hit->along < far - k_in_front_m && hit->at.z > box.low.z + k_on_ground_m;
    }
    if (hidden * 2 <= int(places.size())) return {};
    const double most = k_most_part * std::min(camera.size.width(), camera.size.height());
    hole.radius_px = std::min(std::max(hole.radius_px * k_room, k_least_px), most);
    hole.depth_m -= k_in_front_m;
    if (hole.eye.z > box.low.z) hole.ground_z = box.low.z + k_on_ground_m;
    return hole;
}

} // namespace rubble::app
