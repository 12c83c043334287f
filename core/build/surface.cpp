#include "build/surface.h"

#include <cmath>

#include "base/flat_index.h"
#include "build/edge_key.h"
#include "build/numbered_surface.h"

namespace rubble::build {

SurfaceFacts facts_of(const Surface& surface) {
    const NumberedSurface whole = numbered(surface);
    SurfaceFacts facts;
    facts.pieces = whole.faces.size();
    facts.faces = size_t(areas_of(whole).count);
    struct Edge {
        uint64_t key;
        int balance;
    };
    std::vector<Edge> edges;
    FlatIndex index(2 * whole.points.size());
    const Vec3 origin = whole.points.empty() ? Vec3(0) : geometry::to_metres(whole.points[0]);
    auto point = [&](int i) { return geometry::to_metres(whole.points[size_t(i)]) - origin; };
    double six = 0;
    for (const auto& [loop, brush, part, face] : whole.faces) {
        Vec3 twice_area(0);
        const Vec3 first = point(loop[0]);
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[i + 1 < loop.size() ? i + 1 : 0];
            const uint64_t key = edge_key(std::min(a, b), std::max(a, b));
            const int fresh = int(edges.size());
            const int at = index.find_or_add(hash_of_key(key), fresh,
                                             [&](int k) { return edges[size_t(k)].key == key; });
            if (at == fresh) edges.push_back({key, 0});
            edges[size_t(at)].balance += a < b ? 1 : -1;
            const Vec3 p = point(a), q = point(b);
            twice_area += glm::cross(p - first, q - first);
            six += glm::dot(first, glm::cross(p, q));
        }
        facts.area_m2 += glm::length(twice_area) / 2;
    }
    facts.volume_m3 = six / 6;
    for (const Edge& edge : edges) facts.open_edges += size_t(std::abs(edge.balance));
    return facts;
}

std::vector<std::array<int, 3>> triangles_of(const SurfacePart& part, const SurfaceFace& face) {
    std::vector<std::array<int, 3>> out;
    std::vector<int> rest;
    for (const SurfaceCorner& corner : part.loop(face)) rest.push_back(corner.point);
    auto doubled_area = [&](int a, int b, int c) {
        const Vec3 p = part.point_m(a);
        return glm::dot(glm::cross(part.point_m(b) - p, part.point_m(c) - p), face.normal);
    };
    // The loop is convex up to corners on straight edges: the fullest ear first leaves no flat triangle
    // before the last.
    while (rest.size() > 3) {
        size_t best = 0;
        double best_area = -1;
        for (size_t i = 0; i < rest.size(); ++i) {
            const size_t n = rest.size();
            const double ear = doubled_area(rest[(i + n - 1) % n], rest[i], rest[(i + 1) % n]);
            // An ear must not leave only points of one line behind.
            double left = 0;
            for (size_t k = 0; k < n; ++k)
                if (k != i && (k + 1) % n != i)
                    left += doubled_area(rest[(i + 1) % n], rest[k], rest[(k + 1) % n]);
            if (ear > best_area && left > ear * 1e-9 && ear > 0) best_area = ear, best = i;
        }
        if (best_area <= 0) {
            // Points of one line, but for their rounding: without area, but left out they would leave a
            // crack.
            for (size_t i = 1; i + 1 < rest.size(); ++i) out.push_back({rest[0], rest[i], rest[i + 1]});
            return out;
        }
        const size_t n = rest.size();
        out.push_back({rest[(best + n - 1) % n], rest[best], rest[(best + 1) % n]});
        rest.erase(rest.begin() + long(best));
    }
    if (rest.size() == 3) out.push_back({rest[0], rest[1], rest[2]});
    return out;
}

} // namespace rubble::build
