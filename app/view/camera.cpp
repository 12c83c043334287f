#include "view/camera.h"

#include <cmath>

#include <glm/ext/matrix_clip_space.hpp>
#include <glm/ext/matrix_transform.hpp>

#include "base/angle.h"

namespace rubble::app {

namespace {

constexpr double k_near_plane_m = 0.08, k_far_plane_m = 1500;
constexpr double k_behind_slice_m = 1000;

} // namespace

Camera Camera::first_person(const Vec3& eye, double heading, double tilt, double field, QSizeF size) {
    Camera camera;
    camera.heading_deg = heading, camera.tilt_deg = tilt, camera.field_deg = field, camera.size = size;
    camera.distance_m = 0.01;
    camera.target = eye + camera.forward() * camera.distance_m;
    return camera;
}

Vec3 Camera::forward() const {
    if (kind == Kind::above) return {0, 0, -1};
    if (kind == Kind::front) return {0, 1, 0};
    if (kind == Kind::right) return {-1, 0, 0};
    const auto [ch, sh] = cos_sin(heading_deg);
    const auto [ct, st] = cos_sin(tilt_deg);
    return {ch * ct, sh * ct, -st};
}

Vec3 Camera::right() const {
    if (kind == Kind::right) return {0, 1, 0};
    if (flat()) return {1, 0, 0};
    const auto [ch, sh] = cos_sin(heading_deg);
    return {sh, -ch, 0};
}

Vec3 Camera::up() const { return glm::cross(right(), forward()); }

Vec3 Camera::eye() const { return target - forward() * (flat() ? 500.0 : distance_m); }

double Camera::metres_per_pixel(const Vec3& at) const {
    const double height = std::max(size.height(), 1.0);
    const double depth = flat() ? distance_m : std::max(glm::dot(at - eye(), forward()), k_near_plane_m);
    return 2 * depth * std::tan(radians(field_deg / 2)) / height;
}

glm::mat4 Camera::matrix() const {
    const double aspect = size.width() / std::max(size.height(), 1.0);
    const glm::dmat4 look = glm::lookAt(eye(), eye() + forward(), up());
    if (flat()) {
        const double half = distance_m * std::tan(radians(field_deg / 2));
        const double at_eye = glm::dot(eye(), forward());
        const double near = slice ? slice->from - at_eye : 1.0,
                     far = slice ? slice->to + k_behind_slice_m - at_eye : 1000.0;
        return glm::mat4(glm::ortho(-half * aspect, half * aspect, -half, half, near, far) * look);
    }
    return glm::mat4(glm::perspective(radians(field_deg), aspect, k_near_plane_m, k_far_plane_m) * look);
}

bool Camera::holds(const Vec3& at) const {
    const double depth = glm::dot(at, forward());
    return !slice || (depth >= slice->from && depth <= slice->to);
}

double Camera::slice_end() const {
    if (!slice) return 2;
    const double depth = slice->to - slice->from;
    return 2 * depth / (depth + k_behind_slice_m) - 1;
}

Projection Camera::projection() const {
    const double unit = 2 * std::tan(radians(field_deg / 2)) / std::max(size.height(), 1.0);
    return {flat(),
            eye(),
            forward(),
            right(),
            up(),
            flat() ? unit * distance_m : unit,
            QPointF(size.width() / 2, size.height() / 2)};
}

std::optional<QPointF> Projection::operator()(const Vec3& at) const {
    const Vec3 d = at - eye;
    const double depth = glm::dot(d, forward);
    if (depth < k_near_plane_m) return {};
    const double scale = flat ? unit : unit * depth;
    return QPointF(middle.x() + glm::dot(d, right) / scale, middle.y() - glm::dot(d, up) / scale);
}

Ray Camera::ray(QPointF screen) const {
    const QPointF off(screen.x() - size.width() / 2, size.height() / 2 - screen.y());
    if (flat()) {
        const double scale = metres_per_pixel(target);
        // In a slice one sees, and catches, only what lies behind its front.
        const double begin = slice ? slice->from - glm::dot(eye(), forward()) : 0;
        return {eye() + right() * (off.x() * scale) + up() * (off.y() * scale) + forward() * begin,
                forward()};
    }
    const double unit = 2 * std::tan(radians(field_deg / 2)) / std::max(size.height(), 1.0);
    return {eye(), glm::normalize(forward() + right() * (off.x() * unit) + up() * (off.y() * unit))};
}

Camera Camera::panned(QPointF by) const {
    Camera out = *this;
    const double scale = metres_per_pixel(target);
    out.target -= right() * (by.x() * scale) - up() * (by.y() * scale);
    return out;
}

Camera Camera::turned(QPointF by) const {
    if (flat()) return panned(by);
    Camera out = *this;
    out.heading_deg = std::remainder(heading_deg - by.x() * 0.3, 360.0);
    out.tilt_deg = std::clamp(tilt_deg + by.y() * 0.3, -85.0, 89.0);
    return out;
}

Camera Camera::zoomed(double factor, QPointF about) const {
    Camera out = *this;
    out.distance_m = std::clamp(distance_m * factor, 0.5, 800.0);
    const double used = out.distance_m / distance_m;
    // The point under the pointer, at the target's depth, stays under it.
    const double scale = metres_per_pixel(target);
    const QPointF off(about.x() - size.width() / 2, size.height() / 2 - about.y());
    out.target += (right() * (off.x() * scale) + up() * (off.y() * scale)) * (1 - used);
    return out;
}

Camera Camera::framing(const Box3& box) const {
    if (box.empty()) return *this;
    Camera out = *this;
    out.target = box.middle();
    // Moves back until all corners lie inside, with a little air around them.
    const double slope = std::tan(radians(field_deg / 2)) * 0.9;
    const double aspect = size.width() / std::max(size.height(), 1.0);
    double needed = 3;
    for (int i = 0; i < 8; ++i) {
        const Vec3 corner(i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                          i & 4 ? box.high.z : box.low.z);
        const Vec3 d = corner - out.target;
        const double across =
            std::max(std::abs(glm::dot(d, right())) / aspect, std::abs(glm::dot(d, up()))) / slope;
        needed = std::max(needed, flat() ? across : across - glm::dot(d, forward()));
    }
    out.distance_m = std::min(needed, 800.0);
    return out;
}

namespace {

/// The corners that are farthest out in each of 26 directions: what a view holds of the boxes it tells by
/// them.
std::vector<Vec3> outermost(const std::vector<Box3>& boxes) {
    std::vector<Vec3> out;
    for (int x = -1; x <= 1; ++x)
        for (int y = -1; y <= 1; ++y)
            for (int z = -1; z <= 1; ++z) {
                const Vec3 way(x, y, z);
                double most = -std::numeric_limits<double>::infinity();
                Vec3 best(0);
                for (const Box3& box : boxes) {
                    const Vec3 corner(x < 0 ? box.low.x : box.high.x, y < 0 ? box.low.y : box.high.y,
                                      z < 0 ? box.low.z : box.high.z);
                    if (const double far = glm::dot(corner, way); far > most) most = far, best = corner;
                }
                out.push_back(best);
            }
    return out;
}

} // namespace

Camera Camera::filling(const std::vector<Box3>& boxes) const {
    Box3 box;
    for (const Box3& one : boxes) box.add(one);
    Camera out = framing(box);
    if (flat() || box.empty()) return out;
    const std::vector<Vec3> corners = outermost(boxes);
    constexpr double k_air = 0.94; // of the view
    constexpr int k_rounds = 12, k_steps_back = 60;
    constexpr double k_step_back = 1.02;
    const double up_most = std::tan(radians(field_deg / 2)) * k_air,
                 right_most = up_most * size.width() / std::max(size.height(), 1.0);
    struct Seen {
        Vec2 low{1e9}, high{-1e9};
    };
    const auto seen_by = [&](const Camera& camera) {
        Seen seen;
        for (const Vec3& corner : corners) {
            const Vec3 d = corner - camera.eye();
            const double depth = std::max(glm::dot(d, camera.forward()), 0.1);
            const Vec2 at(glm::dot(d, camera.right()) / depth, glm::dot(d, camera.up()) / depth);
            seen.low = glm::min(seen.low, at), seen.high = glm::max(seen.high, at);
        }
        return seen;
    };
    const auto fits = [&](const Seen& seen) {
        return std::max(-seen.low.x, seen.high.x) <= right_most &&
               std::max(-seen.low.y, seen.high.y) <= up_most;
    };
    for (int round = 0; round < k_rounds; ++round) {
        const Seen seen = seen_by(out);
        const Vec2 middle = (seen.low + seen.high) / 2.0, half = (seen.high - seen.low) / 2.0;
        out.target += (out.right() * middle.x + out.up() * middle.y) * out.distance_m;
        out.distance_m *= std::sqrt(std::max(half.x / right_most, half.y / up_most));
        out.distance_m = std::clamp(out.distance_m, 3.0, 800.0);
    }
    // Perspective may have the last word: back until all of it is in the view.
    for (int i = 0; i < k_steps_back && !fits(seen_by(out)); ++i) out.distance_m *= k_step_back;
    return fits(seen_by(out)) ? out : framing(box);
}

} // namespace rubble::app
