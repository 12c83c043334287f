#include "play/follow_camera.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "motion/column.h"
#include "motion/step.h"

namespace rubble::app {

namespace {

/// How far over the eyes the view from behind aims (metres).
constexpr double k_over_head_m = 0.4;
/// How fast the view turns after the figure (1/s), once that goes at all (metres per second).
constexpr double k_turn_rate = 4, k_going_mps = 0.5;

} // namespace

Camera camera_behind(const motion::World& world, const Character& character, const Vec3& eye,
                     double heading_deg, double tilt_deg, QSizeF size) {
    Camera camera = Camera::first_person(eye, heading_deg, tilt_deg, character.view_angle_deg, size);
    // Over the head, so that the figure does not stand before what is aimed at.
    camera.target = eye + Vec3(0, 0, k_over_head_m);
    if (motion::overlap_m(world, {camera.target - Vec3(0, 0, 0.1), 0.12, 0.2}) > 0)
        camera.target = eye; // low
    camera.distance_m = character.follow_distance_m;
    for (double d = 0.3; d < character.follow_distance_m; d += 0.1) {
        const Vec3 at = camera.target - camera.forward() * d;
        if (motion::overlap_m(world, {at - Vec3(0, 0, 0.1), 0.12, 0.2}) > 0) {
            camera.distance_m = std::max(0.3, d - 0.15);
            break;
        }
    }
    return camera;
}

double headed(double heading_deg, const Vec3& velocity, double seconds) {
    if (glm::length(flat(velocity)) < k_going_mps) return heading_deg;
    const double wanted = std::atan2(velocity.y, velocity.x) * 180 / std::numbers::pi;
    const double by = std::remainder(wanted - heading_deg, 360.0);
    return heading_deg + by * std::min(1.0, k_turn_rate * seconds);
}

} // namespace rubble::app
