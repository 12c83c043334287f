#include "view/picking.h"

#include <cmath>

namespace rubble::app {

std::optional<Hit> pick(const build::Surface& surface, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z) {
    std::optional<Hit> best;
    for_each_face(surface, [&](int brush, const build::SurfacePart& part, const build::SurfaceFace& face) {
        if (size_t(brush) < hidden.size() && hidden[size_t(brush)]) return;
        const double facing = glm::dot(ray.direction, face.normal);
        if (facing > -1e-9) return;
        const auto loop = part.loop(face);
        const Vec3 first = part.point_m(loop[0].point);
        const double t = glm::dot(first - ray.from, face.normal) / facing;
        if (t <= 0 || (best && t >= best->along)) return;
        const Vec3 p = ray.at(t);
        if (p.z > cut_z + 1e-6) return;
        bool inside = true;
        for (size_t i = 0; i < loop.size() && inside; ++i) {
            const Vec3 a = part.point_m(loop[i].point), b = part.point_m(loop[(i + 1) % loop.size()].point);
            inside = glm::dot(glm::cross(b - a, p - a), face.normal) >= -1e-6 * glm::length(b - a);
        }
        if (inside) best = Hit{t, p, face.normal, brush, face.side};
    });
    return best;
}

std::optional<Vec3> meet_plane(const Ray& ray, const Vec3& at, const Vec3& normal) {
    const double facing = glm::dot(ray.direction, normal);
    if (std::abs(facing) < 1e-6) return {};
    const double t = glm::dot(at - ray.from, normal) / facing;
    if (t <= 0 || t > 1000) return {};
    return ray.at(t);
}

double nearest_along(const Ray& ray, const Vec3& at, const Vec3& axis) {
    const Vec3 w = ray.from - at;
    const double b = glm::dot(axis, ray.direction), d = glm::dot(axis, w), e = glm::dot(ray.direction, w);
    const double a = glm::dot(axis, axis);
    const double bottom = a - b * b;
    return std::abs(bottom) < 1e-9 ? 0 : (d - b * e) / bottom;
}

} // namespace rubble::app
