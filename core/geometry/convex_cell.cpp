#include "geometry/convex_cell.h"

#include <cmath>

#include "base/tolerance.h"

namespace rubble::geometry {

Box3 ConvexCell::box() const {
    Box3 box;
    for (const Face& face : faces)
        for (const Vec3& p : face.loop) box.add(p);
    return box;
}

double ConvexCell::volume() const {
    double six = 0;
    for (const Face& face : faces)
        for (size_t i = 1; i + 1 < face.loop.size(); ++i)
            six += glm::dot(face.loop[0], glm::cross(face.loop[i], face.loop[i + 1]));
    return six / 6;
}

namespace {

/// Points of the new face in the plane `keep`, put in order about their middle.
std::vector<Vec3> ordered_loop(std::vector<Vec3> points, const Vec3& normal) {
    Vec3 middle(0);
    for (const Vec3& p : points) middle += p;
    middle /= double(std::max<size_t>(points.size(), 1));
    const Vec3 side = std::abs(normal.x) < 0.6 ? Vec3(1, 0, 0) : Vec3(0, 1, 0);
    const Vec3 u = glm::normalize(glm::cross(side, normal)), v = glm::cross(normal, u);
    auto angle = [&](const Vec3& p) { return std::atan2(glm::dot(p - middle, v), glm::dot(p - middle, u)); };
    std::sort(points.begin(), points.end(),
              [&](const Vec3& a, const Vec3& b) { return angle(a) < angle(b); });
    std::vector<Vec3> loop;
    for (const Vec3& p : points)
        if (loop.empty() || glm::length(p - loop.back()) > tolerance::same_place_m) loop.push_back(p);
    if (loop.size() > 1 && glm::length(loop.front() - loop.back()) <= tolerance::same_place_m)
        loop.pop_back();
    return loop;
}

} // namespace

ConvexCell clipped(const ConvexCell& cell, const HalfSpace& keep) {
    double lowest = 0, highest = 0;
    for (const auto& face : cell.faces)
        for (const Vec3& p : face.loop) {
            lowest = std::min(lowest, keep.distance(p));
            highest = std::max(highest, keep.distance(p));
        }
    if (highest <= tolerance::same_place_m) return cell;
    if (lowest >= -tolerance::same_place_m) return {};

    ConvexCell out;
    std::vector<Vec3> rim;
    for (const auto& face : cell.faces) {
        ConvexCell::Face kept{face.plane, {}};
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const Vec3 &a = face.loop[i], &b = face.loop[(i + 1) % face.loop.size()];
            const double da = keep.distance(a), db = keep.distance(b);
            if (da <= 0) kept.loop.push_back(a);
            if (da == 0) rim.push_back(a);
            if ((da < 0 && db > 0) || (da > 0 && db < 0)) {
                const Vec3 p = a + (b - a) * (da / (da - db));
                kept.loop.push_back(p);
                rim.push_back(p);
            }
        }
        if (kept.loop.size() >= 3) out.faces.push_back(std::move(kept));
    }
    if (auto loop = ordered_loop(std::move(rim), keep.normal); loop.size() >= 3)
        out.faces.push_back({keep, std::move(loop)});
    return out.empty() ? ConvexCell{} : out;
}

std::vector<ConvexCell> subtracted(const ConvexCell& cell, const ConvexCell& cutter) {
    std::vector<ConvexCell> pieces;
    ConvexCell rest = cell;
    for (const auto& face : cutter.faces) {
        if (ConvexCell outside = clipped(rest, face.plane.opposite()); !outside.empty())
            pieces.push_back(std::move(outside));
        rest = clipped(rest, face.plane);
        if (rest.empty()) return {cell};
    }
    return pieces;
}

} // namespace rubble::geometry
