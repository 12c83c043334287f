#include "geometry/convex_cell.h"

#include <algorithm>
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

using Loop = ConvexCell::Loop;

/// Grows with the angle of a direction from u towards v, from 0 to 4 all the way round: no need of the angle.
double turn_of(double u, double v) {
    if (u == 0 && v == 0) return 0;
    const double part = v / (std::abs(u) + std::abs(v));
    return u >= 0 ? (v >= 0 ? part : 4 + part) : 2 - part;
}

/// Points of the new face in the plane `keep`, put in order about their middle.
Loop ordered_loop(const Loop& points, const Vec3& normal) {
    Vec3 middle(0);
    for (const Vec3& p : points) middle += p;
    middle /= double(std::max<size_t>(points.size(), 1));
    const Vec3 side = std::abs(normal.x) < 0.6 ? Vec3(1, 0, 0) : Vec3(0, 1, 0);
    const Vec3 u = glm::normalize(glm::cross(side, normal)), v = glm::cross(normal, u);
    boost::container::small_vector<std::pair<double, size_t>, 16> order;
    for (size_t i = 0; i < points.size(); ++i) {
        const Vec3 way = points[i] - middle;
        order.emplace_back(turn_of(glm::dot(way, u), glm::dot(way, v)), i);
    }
    std::sort(order.begin(), order.end());
    Loop loop;
    for (const auto& [turn, i] : order)
        if (loop.empty() || glm::length(points[i] - loop.back()) > tolerance::same_place_m)
            loop.push_back(points[i]);
    if (loop.size() > 1 && glm::length(loop.front() - loop.back()) <= tolerance::same_place_m)
        loop.pop_back();
    return loop;
}

/// How far each corner of each face lies over a plane, face by face.
struct Distances {
    boost::container::small_vector<double, 48> of;
    double lowest = 0, highest = 0;
};

Distances distances_of(const ConvexCell& cell, const HalfSpace& plane) {
    Distances out;
    for (const auto& face : cell.faces)
        for (const Vec3& p : face.loop) {
            const double d = plane.distance(p);
            out.of.push_back(d);
            out.lowest = std::min(out.lowest, d), out.highest = std::max(out.highest, d);
        }
    return out;
}

/// The part inside a plane that crosses the cell; `sign` -1: the part outside.
ConvexCell half_of(const ConvexCell& cell, const Distances& distances, double sign, const HalfSpace& keep) {
    ConvexCell out;
    Loop rim;
    size_t first = 0;
    for (const auto& face : cell.faces) {
        ConvexCell::Face kept{face.plane, {}};
        const size_t n = face.loop.size();
        for (size_t i = 0; i < n; ++i) {
            const size_t next = i + 1 < n ? i + 1 : 0;
            const Vec3 &a = face.loop[i], &b = face.loop[next];
            const double da = sign * distances.of[first + i], db = sign * distances.of[first + next];
            if (da <= 0) kept.loop.push_back(a);
            if (da == 0) rim.push_back(a);
            if ((da < 0 && db > 0) || (da > 0 && db < 0)) {
                const Vec3 p = a + (b - a) * (da / (da - db));
                kept.loop.push_back(p);
                rim.push_back(p);
            }
        }
        first += n;
        if (kept.loop.size() >= 3) out.faces.push_back(std::move(kept));
    }
    if (Loop loop = ordered_loop(rim, keep.normal); loop.size() >= 3)
        out.faces.push_back({keep, std::move(loop)});
    return out.empty() ? ConvexCell{} : out;
}

} // namespace

ConvexCell clipped(const ConvexCell& cell, const HalfSpace& keep) {
    const Distances distances = distances_of(cell, keep);
    if (distances.highest <= tolerance::same_place_m) return cell;
    if (distances.lowest >= -tolerance::same_place_m) return {};
    return half_of(cell, distances, 1, keep);
}

std::vector<ConvexCell> subtracted(const ConvexCell& cell, const ConvexCell& cutter) {
    std::vector<ConvexCell> pieces;
    ConvexCell rest = cell;
    for (const auto& face : cutter.faces) {
        const Distances distances = distances_of(rest, face.plane);
        if (distances.lowest >= -tolerance::same_place_m) return {cell}; // nothing of it lies within
        if (distances.highest <= tolerance::same_place_m) continue;
        if (ConvexCell outside = half_of(rest, distances, -1, face.plane.opposite()); !outside.empty())
            pieces.push_back(std::move(outside));
        rest = half_of(rest, distances, 1, face.plane);
        if (rest.empty()) return {cell};
    }
    return pieces;
}

} // namespace rubble::geometry
