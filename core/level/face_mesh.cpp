#include "level/face_mesh.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

#include "geometry/exact.h"
#include "geometry/partition.h"

namespace rubble {

namespace {

using geometry::TickPoint;
using geometry::TickPoint2;
using Loop = FaceMesh::Loop;

constexpr double k_least_area_m2 = 1e-10;

/// How points are seen along the axis that a loop faces most: so that it runs counter-clockwise.
struct Seen {
    int axis = 2;
    bool mirrored = false;

    Seen(const std::vector<Vec3>& points, const Loop& loop) {
        const Vec3 normal = area_vector(points, loop), size = glm::abs(normal);
        axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
        mirrored = normal[axis] < 0;
    }
    Vec2 of(const Vec3& p) const {
        const Vec2 at = axis == 0 ? Vec2(p.y, p.z) : axis == 1 ? Vec2(p.z, p.x) : Vec2(p.x, p.y);
        return mirrored ? Vec2(at.y, at.x) : at;
    }
    TickPoint2 ticks(const Vec3& p) const {
        const Vec2 at = of(p) * geometry::ticks_per_metre;
        return {std::llround(at.x), std::llround(at.y)};
    }
};

std::vector<TickPoint2> flattened(const std::vector<Vec3>& points, const Loop& loop, const Seen& seen) {
    std::vector<TickPoint2> out;
    for (const int i : loop) out.push_back(seen.ticks(points[size_t(i)]));
    return out;
}

std::vector<TickPoint2> flattened(const std::vector<Vec3>& points, const Loop& loop) {
    return flattened(points, loop, Seen(points, loop));
}

std::vector<Loop> by_points(std::vector<std::vector<int>> parts, const Loop& loop) {
    for (auto& part : parts)
        for (int& i : part) i = loop[size_t(i)];
    return parts;
}

bool is_closed(const FaceMesh& mesh) {
    std::map<std::pair<int, int>, int> edges;
    for (const Loop& loop : mesh.faces) {
        if (loop.size() < 3) return false;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            if (a < 0 || size_t(a) >= mesh.points.size() || a == b || ++edges[{a, b}] > 1) return false;
        }
    }
    return std::all_of(edges.begin(), edges.end(), [&](const auto& edge) {
        return edges.contains({edge.first.second, edge.first.first});
    });
}

/// Triangles of a mesh by their corners in ticks, to see whether any two of them meet where they should not.
/// Exact: places within a kilometre keep six times the volume of a tetrahedron in 128 bits.
class Crossings {
public:
    explicit Crossings(const FaceMesh& mesh) {
        for (const Vec3& p : mesh.points) points_.push_back(geometry::to_ticks(p));
        for (const Loop& loop : mesh.faces)
            for (const Loop& t : triangles_of(mesh.points, loop)) {
                Triangle triangle{{t[0], t[1], t[2]}, {}};
                for (const int i : t) triangle.box.add(mesh.points[size_t(i)]);
                triangle.box = triangle.box.grown(1e-6);
                triangles_.push_back(triangle);
            }
        std::sort(triangles_.begin(), triangles_.end(),
                  [](const auto& a, const auto& b) { return a.box.low.x < b.box.low.x; });
    }

    bool any() const {
        for (size_t i = 0; i < triangles_.size(); ++i)
            for (size_t k = i + 1; k < triangles_.size(); ++k) {
                const Triangle &a = triangles_[i], &b = triangles_[k];
                if (b.box.low.x > a.box.high.x) break;
                if (a.box.touches(b.box) && (pierces(a, b) || pierces(b, a))) return true;
            }
        return false;
    }

private:
    struct Triangle {
        std::array<int, 3> corners;
        Box3 box;
    };
    using Ends = std::array<int, 2>;

    const TickPoint& at(int i) const { return points_[size_t(i)]; }
    static bool has(const Triangle& t, int corner) {
        return std::find(t.corners.begin(), t.corners.end(), corner) != t.corners.end();
    }

    /// On which side of the plane through a, b, c the point p lies.
    int side(int a, int b, int c, int p) const {
        const TickPoint &o = at(a), &u = at(b), &v = at(c), &w = at(p);
        const __int128 ux = u.x - o.x, uy = u.y - o.y, uz = u.z - o.z;
        const __int128 vx = v.x - o.x, vy = v.y - o.y, vz = v.z - o.z;
        const __int128 wx = w.x - o.x, wy = w.y - o.y, wz = w.z - o.z;
        const __int128 six_volumes =
            ux * (vy * wz - vz * wy) - uy * (vx * wz - vz * wx) + uz * (vx * wy - vy * wx);
        return six_volumes > 0 ? 1 : six_volumes < 0 ? -1 : 0;
    }

    /// Whether an edge of `a` meets `b` elsewhere than in a corner that both have.
    bool pierces(const Triangle& a, const Triangle& b) const {
        for (size_t i = 0; i < 3; ++i)
            if (meets({a.corners[i], a.corners[(i + 1) % 3]}, b)) return true;
        return false;
    }

    bool meets(const Ends& edge, const Triangle& t) const {
        const bool first = has(t, edge[0]), second = has(t, edge[1]);
        if (first && second) return false;
        const auto& [a, b, c] = t.corners;
        const int from = side(a, b, c, edge[0]), to = side(a, b, c, edge[1]);
        if (from == 0 && to == 0) return meets_in_plane(edge, t, first || second);
        if (first || second || from * to > 0) return false;
        const int ab = side(edge[0], edge[1], a, b), bc = side(edge[0], edge[1], b, c),
                  ca = side(edge[0], edge[1], c, a);
        return (ab >= 0 && bc >= 0 && ca >= 0) || (ab <= 0 && bc <= 0 && ca <= 0);
    }

    /// The same for an edge in the triangle's plane; `shares` one of its ends with it.
    bool meets_in_plane(const Ends& edge, const Triangle& t, bool shares) const {
        std::array<TickPoint2, 5> flat;
        const std::array<int, 5> all{t.corners[0], t.corners[1], t.corners[2], edge[0], edge[1]};
        const int axis = widest_axis(t);
        for (size_t i = 0; i < 5; ++i) {
            const TickPoint& p = at(all[i]);
            flat[i] = axis == 0   ? TickPoint2{p.y, p.z}
                      : axis == 1 ? TickPoint2{p.z, p.x}
                                  : TickPoint2{p.x, p.y};
        }
        if (geometry::turn(flat[0], flat[1], flat[2]) < 0) std::swap(flat[1], flat[2]);
        const std::span<const TickPoint2> corners(flat.data(), 3);
        const TickPoint2 p = flat[3], q = flat[4];
        if (!shares) return outside_of_none(corners, p, q);
        // From the corner that both have the edge must not lead into the angle there, or along its legs.
        const TickPoint2 shared = has(t, edge[0]) ? p : q, other = has(t, edge[0]) ? q : p;
        size_t i = 0;
        while (corners[i] != shared) ++i;
        return geometry::turn(shared, corners[(i + 1) % 3], other) >= 0 &&
               geometry::turn(corners[(i + 2) % 3], shared, other) >= 0;
    }

    int widest_axis(const Triangle& t) const {
        const auto& [a, b, c] = t.corners;
        const Vec3 n = glm::abs(glm::cross(geometry::to_metres(at(b)) - geometry::to_metres(at(a)),
                                           geometry::to_metres(at(c)) - geometry::to_metres(at(a))));
        return n.x >= n.y && n.x >= n.z ? 0 : n.y >= n.z ? 1 : 2;
    }

    /// Whether no line along a side of the triangle, nor the one along the edge, keeps them apart.
    static bool outside_of_none(std::span<const TickPoint2> corners, const TickPoint2& p,
                                const TickPoint2& q) {
        for (size_t i = 0; i < 3; ++i) {
            const TickPoint2 &a = corners[i], &b = corners[(i + 1) % 3];
            if (geometry::turn(a, b, p) < 0 && geometry::turn(a, b, q) < 0) return false;
        }
        bool left = false, right = false;
        for (const TickPoint2& corner : corners) {
            const __int128 side = geometry::turn(p, q, corner);
            left |= side >= 0, right |= side <= 0;
        }
        return left && right;
    }

    std::vector<TickPoint> points_;
    std::vector<Triangle> triangles_;
};

} // namespace

EdgeFaces edge_faces(const FaceMesh& mesh) {
    EdgeFaces out;
    for (int f = 0; f < int(mesh.faces.size()); ++f) {
        const Loop& loop = mesh.faces[size_t(f)];
        for (size_t i = 0; i < loop.size(); ++i) out[{loop[i], loop[(i + 1) % loop.size()]}] = f;
    }
    return out;
}

Vec3 area_vector(const std::vector<Vec3>& points, const Loop& loop) {
    Vec3 sum(0);
    const Vec3 origin = points[size_t(loop[0])];
    for (size_t i = 1; i + 1 < loop.size(); ++i)
        sum += glm::cross(points[size_t(loop[i])] - origin, points[size_t(loop[i + 1])] - origin);
    return sum * 0.5;
}

Vec3 normal_of(const std::vector<Vec3>& points, const Loop& loop) {
    const Vec3 area = area_vector(points, loop);
    const double size = glm::length(area);
    return size > 0 ? area / size : Vec3(0, 0, 1);
}

Vec3 middle_of(const std::vector<Vec3>& points, const Loop& loop) {
    Vec3 sum(0);
    for (const int i : loop) sum += points[size_t(i)];
    return sum / double(loop.size());
}

double bend_of(const std::vector<Vec3>& points, const Loop& loop) {
    const Vec3 normal = normal_of(points, loop), middle = middle_of(points, loop);
    double most = 0;
    for (const int i : loop) most = std::max(most, std::abs(glm::dot(points[size_t(i)] - middle, normal)));
    return most;
}

std::vector<Loop> triangles_of(const std::vector<Vec3>& points, const Loop& loop) {
    return by_points(geometry::triangles_of(flattened(points, loop)), loop);
}

std::vector<Loop> convex_pieces(const std::vector<Vec3>& points, const Loop& loop,
                                const std::vector<Loop>& holes) {
    const Seen seen(points, loop);
    geometry::Rings rings{flattened(points, loop, seen)};
    Loop all = loop;
    for (const Loop& hole : holes) {
        rings.push_back(flattened(points, hole, seen));
        all.insert(all.end(), hole.begin(), hole.end());
    }
    return by_points(geometry::convex_parts(rings), all);
}

bool holds(const std::vector<Vec3>& points, const Loop& loop, const Vec3& p) {
    const Seen seen(points, loop);
    const Vec2 at = seen.of(p);
    bool inside = false;
    for (size_t i = 0; i < loop.size(); ++i) {
        const Vec2 a = seen.of(points[size_t(loop[i])]),
                   b = seen.of(points[size_t(loop[(i + 1) % loop.size()])]);
        if ((a.y > at.y) != (b.y > at.y) && (cross(b - a, at - a) > 0) == (b.y > a.y)) inside = !inside;
    }
    return inside;
}

bool is_simple(const std::vector<Vec3>& points, const Loop& loop) {
    return loop.size() >= 3 && glm::length(area_vector(points, loop)) >= k_least_area_m2 &&
           geometry::is_simple({flattened(points, loop)});
}

std::optional<MeshExit> exit_along(const FaceMesh& mesh, const Vec3& from, const Vec3& way, int face) {
    std::optional<MeshExit> exit;
    for (int f = 0; f < int(mesh.faces.size()); ++f) {
        const Loop& loop = mesh.faces[size_t(f)];
        const Vec3 normal = normal_of(mesh.points, loop);
        const double speed = glm::dot(normal, way);
        if (f == face || speed < 1e-6) continue;
        const double along = glm::dot(mesh.points[size_t(loop[0])] - from, normal) / speed;
        if (along < 1e-6 || (exit && along >= exit->along) || !holds(mesh.points, loop, from + way * along))
            continue;
        exit = MeshExit{f, from + way * along, along};
    }
    return exit;
}

double volume_of(const FaceMesh& mesh) {
    double sum = 0;
    for (const Loop& loop : mesh.faces)
        sum += glm::dot(mesh.points[size_t(loop[0])], area_vector(mesh.points, loop));
    return sum / 3;
}

bool is_convex(const FaceMesh& mesh) {
    return std::all_of(mesh.faces.begin(), mesh.faces.end(), [&](const Loop& loop) {
        const Vec3 normal = normal_of(mesh.points, loop), on = mesh.points[size_t(loop[0])];
        return std::all_of(mesh.points.begin(), mesh.points.end(),
                           [&](const Vec3& p) { return glm::dot(p - on, normal) <= most_bend_m; });
    });
}

MeshFlaw flaw_of(const FaceMesh& mesh, bool bent_too) {
    if (mesh.faces.size() < 4 || !is_closed(mesh)) return MeshFlaw::open;
    for (const Loop& loop : mesh.faces) {
        if (!is_simple(mesh.points, loop)) return MeshFlaw::no_area;
        if (bent_too && bend_of(mesh.points, loop) > most_bend_m) return MeshFlaw::bent;
    }
    if (volume_of(mesh) <= 0) return MeshFlaw::inside_out;
    return Crossings(mesh).any() ? MeshFlaw::crossing : MeshFlaw::none;
}

} // namespace rubble
