#include "geometry/convex_hull.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace rubble::geometry {

namespace {

using Triangle = std::array<int, 3>;

/// Whether `d` lies before (above 0) the plane of three points, seen counter-clockwise, in it, or behind.
int side(const TickPoint& a, const TickPoint& b, const TickPoint& c, const TickPoint& d) {
    const __int128 ux = b.x - a.x, uy = b.y - a.y, uz = b.z - a.z;
    const __int128 vx = c.x - a.x, vy = c.y - a.y, vz = c.z - a.z;
    const __int128 wx = d.x - a.x, wy = d.y - a.y, wz = d.z - a.z;
    const __int128 det = (uy * vz - uz * vy) * wx + (uz * vx - ux * vz) * wy + (ux * vy - uy * vx) * wz;
    return det > 0 ? 1 : det < 0 ? -1 : 0;
}

bool on_line(const TickPoint& a, const TickPoint& b, const TickPoint& c) {
    const __int128 ux = b.x - a.x, uy = b.y - a.y, uz = b.z - a.z;
    const __int128 vx = c.x - a.x, vy = c.y - a.y, vz = c.z - a.z;
    return uy * vz == uz * vy && uz * vx == ux * vz && ux * vy == uy * vx;
}

/// Four points that span space; empty where there are none.
std::vector<int> first_four(const std::vector<TickPoint>& p) {
    const int n = int(p.size());
    auto at = [&](int i) -> const TickPoint& { return p[size_t(i)]; };
    int b = 1, c, d;
    while (b < n && at(b) == at(0)) ++b;
    for (c = b + 1; c < n && on_line(at(0), at(b), at(c)); ++c) {}
    for (d = c + 1; d < n && side(at(0), at(b), at(c), at(d)) == 0; ++d) {}
    if (d >= n) return {};
    if (side(at(0), at(b), at(c), at(d)) > 0) std::swap(b, c);
    return {0, b, c, d};
}

std::vector<Triangle> hull_triangles(const std::vector<TickPoint>& p) {
    const std::vector<int> four = first_four(p);
    if (four.empty()) return {};
    auto at = [&](int i) -> const TickPoint& { return p[size_t(i)]; };
    const int a = four[0], b = four[1], c = four[2], d = four[3];
    std::vector<Triangle> faces{{a, b, c}, {a, d, b}, {b, d, c}, {c, d, a}};
    for (int i = 0; i < int(p.size()); ++i) {
        if (std::find(four.begin(), four.end(), i) != four.end()) continue;
        std::set<std::pair<int, int>> rim;
        std::vector<Triangle> kept;
        for (const Triangle& face : faces) {
            if (side(at(face[0]), at(face[1]), at(face[2]), at(i)) <= 0) {
                kept.push_back(face);
                continue;
            }
            for (size_t k = 0; k < 3; ++k) {
                const std::pair<int, int> edge{face[k], face[(k + 1) % 3]};
                if (!rim.erase({edge.second, edge.first})) rim.insert(edge);
            }
        }
        if (kept.size() == faces.size()) continue;
        for (const auto& [from, to] : rim) kept.push_back({from, to, i});
        faces = std::move(kept);
    }
    return faces;
}

} // namespace

std::vector<std::vector<int>> convex_hull(const std::vector<TickPoint>& points) {
    const std::vector<Triangle> triangles = hull_triangles(points);
    auto at = [&](int i) -> const TickPoint& { return points[size_t(i)]; };
    // Triangles of one plane go together: their rim is the face.
    std::map<std::pair<int, int>, size_t> triangle_of;
    for (size_t t = 0; t < triangles.size(); ++t)
        for (size_t k = 0; k < 3; ++k) triangle_of[{triangles[t][k], triangles[t][(k + 1) % 3]}] = t;
    std::vector<bool> taken(triangles.size(), false);
    std::vector<std::vector<int>> faces;
    for (size_t t = 0; t < triangles.size(); ++t) {
        const Triangle& first = triangles[t];
        // Flat triangles lie between two of one plane, which reach each other round them.
        if (taken[t] || on_line(at(first[0]), at(first[1]), at(first[2]))) continue;
        std::map<int, int> next;
        std::vector<size_t> open{t};
        taken[t] = true;
        while (!open.empty()) {
            const Triangle triangle = triangles[open.back()];
            open.pop_back();
            for (size_t k = 0; k < 3; ++k) {
                const int from = triangle[k], to = triangle[(k + 1) % 3];
                const size_t beyond = triangle_of.at({to, from});
                const Triangle& other = triangles[beyond];
                const bool same = std::all_of(other.begin(), other.end(), [&](int i) {
                    return side(at(first[0]), at(first[1]), at(first[2]), at(i)) == 0;
                });
                if (!same)
                    next[from] = to;
                else if (!taken[beyond])
                    taken[beyond] = true, open.push_back(beyond);
            }
        }
        std::vector<int> loop{next.begin()->first};
        for (int i = next.at(loop[0]); i != loop[0] && loop.size() <= next.size(); i = next.at(i))
            loop.push_back(i);
        for (size_t i = 0; i < loop.size() && loop.size() > 3;) {
            const size_t n = loop.size();
            if (on_line(at(loop[(i + n - 1) % n]), at(loop[i]), at(loop[(i + 1) % n])))
                loop.erase(loop.begin() + long(i)), i = 0;
            else
                ++i;
        }
        faces.push_back(std::move(loop));
    }
    return faces;
}

} // namespace rubble::geometry
