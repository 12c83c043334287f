#include "view/picking.h"

#include <algorithm>
#include <cmath>

#include "view/ray_box.h"

namespace rubble::app {

namespace {

void pick_in(const build::SurfacePart& part, int brush, const Ray& ray, double cut_z,
             std::optional<Hit>& best) {
    for (const build::SurfaceFace& face : part.faces) {
        const double facing = glm::dot(ray.direction, face.normal);
        if (facing > -1e-9) continue;
        const auto loop = part.loop(face);
        const double t = glm::dot(part.point_m(loop[0].point) - ray.from, face.normal) / facing;
        if (t <= 0 || (best && t >= best->along)) continue;
        const Vec3 p = ray.at(t);
        if (p.z > cut_z + 1e-6) continue;
        bool inside = true;
        for (size_t i = 0; i < loop.size() && inside; ++i) {
            const Vec3 a = part.point_m(loop[i].point), b = part.point_m(loop[(i + 1) % loop.size()].point);
            inside = glm::dot(glm::cross(b - a, p - a), face.normal) >= -1e-6 * glm::length(b - a);
        }
        if (inside) best = Hit{t, p, face.normal, brush, face.side, {}, face.side.name};
    }
}

} // namespace

PickBoxes boxes_of(const build::Surface& surface, const PickBoxes* before) {
    PickBoxes out;
    const size_t count = surface.brushes.size();
    if (before && before->brushes.size() == count) {
        out = *before;
        out.brushes = surface.brushes;
        bool as_many = true;
        for (size_t i = out.brushes.next_not_shared(before->brushes, 0); i < count && as_many;
             i = out.brushes.next_not_shared(before->brushes, i + 1)) {
            const build::BrushSurface& own = *out.brushes[i];
            as_many = own.size() == out.first[i + 1] - out.first[i];
            for (size_t k = 0; k < own.size() && as_many; ++k)
                out.parts[out.first[i] + k] = {own[k]->box.grown(1e-6), int(i), own[k].get()};
        }
        if (as_many) return out;
    }
    out = {{}, {0}, surface.brushes};
    for (size_t i = 0; i < count; ++i) {
        for (const auto& part : *out.brushes[i])
            out.parts.push_back({part->box.grown(1e-6), int(i), part.get()});
        out.first.push_back(out.parts.size());
    }
    return out;
}

std::optional<Hit> pick(const build::Surface& surface, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z) {
    return pick(boxes_of(surface), hidden, ray, cut_z);
}

std::optional<Hit> pick(const PickBoxes& boxes, const std::vector<bool>& hidden, const Ray& ray,
                        double cut_z) {
    const Vec3 inverse = inverse_way(ray);
    // The boxes that the ray meets, nearest first: what lies behind the first hit is not looked into.
    struct Met {
        double enters;
        const PickBoxes::Part* part;
    };
    std::vector<Met> met;
    for (const PickBoxes::Part& part : boxes.parts)
        if (const auto enters = entry_of(ray, inverse, part.box))
            if (size_t(part.brush) >= hidden.size() || !hidden[size_t(part.brush)])
                met.push_back({*enters, &part});
    std::sort(met.begin(), met.end(), [](const Met& a, const Met& b) { return a.enters < b.enters; });
    std::optional<Hit> best;
    for (const Met& one : met) {
        if (best && best->along < one.enters) break;
        pick_in(*one.part->part, one.part->brush, ray, cut_z, best);
    }
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
