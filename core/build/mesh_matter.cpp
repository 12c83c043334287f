#include "build/mesh_matter.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <unordered_map>

#include "build/body_cells.h"
#include "geometry/convex_hull.h"

namespace rubble::build {

using geometry::ConvexCell;
using geometry::TickPoint;

namespace {

/// A mesh on whole ticks, each place once.
struct TickMesh {
    std::vector<TickPoint> points;
    std::vector<std::array<int, 3>> triangles; ///< of three places that do not lie on one line
};

struct TickHash {
    size_t operator()(const TickPoint& p) const {
        size_t h = size_t(p.x) * 0x9E3779B97F4A7C15ull;
        h = (h ^ size_t(p.y)) * 0xC2B2AE3D27D4EB4Full;
        return (h ^ size_t(p.z)) * 0x165667B19E3779F9ull ^ (h >> 29);
    }
};

Vec3 in_ticks(const TickPoint& p) { return {double(p.x), double(p.y), double(p.z)}; }

Vec3 area_vector(const Vec3& a, const Vec3& b, const Vec3& c) { return glm::cross(b - a, c - a); }

TickMesh welded(const TriangleMesh& mesh) {
    constexpr double k_least_doubled = 1.0; // square ticks: what is less wide than a tick has no plane
    TickMesh out;
    std::unordered_map<TickPoint, int, TickHash> known;
    std::vector<int> at;
    for (const Vec3& p : mesh.points) {
        const TickPoint tick = geometry::to_ticks(p);
        const auto [found, fresh] = known.try_emplace(tick, int(out.points.size()));
        if (fresh) out.points.push_back(tick);
        at.push_back(found->second);
    }
    for (const auto& t : mesh.triangles) {
        const std::array<int, 3> one{at[size_t(t[0])], at[size_t(t[1])], at[size_t(t[2])]};
        if (one[0] == one[1] || one[1] == one[2] || one[2] == one[0]) continue;
        const Vec3 a = in_ticks(out.points[size_t(one[0])]), b = in_ticks(out.points[size_t(one[1])]),
                   c = in_ticks(out.points[size_t(one[2])]);
        if (glm::length(area_vector(a, b, c)) >= k_least_doubled) out.triangles.push_back(one);
    }
    return out;
}

/// How often each directed edge is run along.
using Edges = std::map<std::pair<int, int>, int>;

Edges edges_of(const std::vector<std::array<int, 3>>& triangles) {
    Edges out;
    for (const auto& t : triangles)
        for (size_t k = 0; k < 3; ++k) ++out[{t[k], t[(k + 1) % 3]}];
    return out;
}

bool closed(const std::vector<std::array<int, 3>>& triangles) {
    const Edges edges = edges_of(triangles);
    return std::all_of(edges.begin(), edges.end(), [&](const auto& edge) {
        const auto opposite = edges.find({edge.first.second, edge.first.first});
        return opposite != edges.end() && opposite->second == edge.second;
    });
}

/// The triangles that hang together along edges.
std::vector<std::vector<std::array<int, 3>>> parts_of(const TickMesh& mesh) {
    std::vector<int> root(mesh.triangles.size());
    std::iota(root.begin(), root.end(), 0);
    const auto find = [&](int i) {
        while (root[size_t(i)] != i) i = root[size_t(i)] = root[size_t(root[size_t(i)])];
        return i;
    };
    std::map<std::pair<int, int>, int> seen;
    for (size_t i = 0; i < mesh.triangles.size(); ++i)
        for (size_t k = 0; k < 3; ++k) {
            const int a = mesh.triangles[i][k], b = mesh.triangles[i][(k + 1) % 3];
            const auto [other, fresh] = seen.try_emplace(std::minmax(a, b), int(i));
            if (!fresh) root[size_t(find(int(i)))] = find(other->second);
        }
    std::map<int, size_t> place;
    std::vector<std::vector<std::array<int, 3>>> out;
    for (size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto [found, fresh] = place.try_emplace(find(int(i)), out.size());
        if (fresh) out.emplace_back();
        out[found->second].push_back(mesh.triangles[i]);
    }
    return out;
}

/// A connected closed part, its volume as its faces look, and its box.
struct ClosedPart {
    std::vector<std::array<int, 3>> triangles;
    double volume_m3 = 0;
    Box3 box;
};

double volume_m3(const TickMesh& mesh, const std::vector<std::array<int, 3>>& triangles) {
    if (triangles.empty()) return 0;
    const Vec3 from = geometry::to_metres(mesh.points[size_t(triangles[0][0])]);
    double sum = 0;
    for (const auto& t : triangles) {
        const Vec3 a = geometry::to_metres(mesh.points[size_t(t[0])]) - from,
                   b = geometry::to_metres(mesh.points[size_t(t[1])]) - from,
                   c = geometry::to_metres(mesh.points[size_t(t[2])]) - from;
        sum += glm::dot(a, glm::cross(b, c)) / 6;
    }
    return sum;
}

bool within(const Box3& inner, const Box3& outer) {
    return glm::all(glm::greaterThanEqual(inner.low, outer.low)) &&
           glm::all(glm::lessThanEqual(inner.high, outer.high));
}

/// The convex cells between closed faces; none where they do not part the room into what they enclose.
std::vector<ConvexCell> cells_between(const TickMesh& mesh, const std::vector<std::array<int, 3>>& faces,
                                      double wanted_m3) {
    constexpr double k_off = 1e-6; // of the volume
    BrushBody body;
    body.points = mesh.points;
    for (const auto& t : faces) body.bounds.push_back({{t[0], t[1], t[2]}, BoxSide::top, -1});
    geometry::PlaneTable planes;
    const BodyPlanes refs = added(planes_of(body), body, planes);
    const PreparedBrush prepared = prepare(Effect::fill, body, refs, planes);
    std::vector<ConvexCell> out;
    double volume = 0;
    for (const PreparedCell& cell : prepared.cells) {
        volume += cell.cell->volume();
        out.push_back(*cell.cell);
    }
    if (std::abs(volume - wanted_m3) > k_off * std::max(wanted_m3, 1e-3)) out.clear();
    return out;
}

std::vector<Vec3> places_of(const TickMesh& mesh, const std::vector<std::array<int, 3>>& triangles) {
    std::vector<int> used;
    for (const auto& t : triangles) used.insert(used.end(), t.begin(), t.end());
    std::sort(used.begin(), used.end());
    used.erase(std::unique(used.begin(), used.end()), used.end());
    std::vector<Vec3> out;
    for (const int i : used) out.push_back(geometry::to_metres(mesh.points[size_t(i)]));
    return out;
}

ConvexCell::Face face_through(std::initializer_list<Vec3> loop) {
    ConvexCell::Face face;
    face.loop.assign(loop.begin(), loop.end());
    face.plane.normal = glm::normalize(area_vector(face.loop[0], face.loop[1], face.loop[2]));
    face.plane.d = -glm::dot(face.plane.normal, face.loop[0]);
    return face;
}

/// What lies behind a face.
ConvexCell slab_behind(const Vec3& a, const Vec3& b, const Vec3& c, double thickness_m) {
    const Vec3 back = -glm::normalize(area_vector(a, b, c)) * thickness_m;
    ConvexCell cell;
    cell.faces = {face_through({a, b, c}), face_through({c + back, b + back, a + back}),
                  face_through({a, a + back, b + back, b}), face_through({b, b + back, c + back, c}),
                  face_through({c, c + back, a + back, a})};
    return cell;
}

/// Closed parts with the hollows in them: each hollow goes to the smallest part whose box holds it.
std::vector<ClosedPart> with_hollows(std::vector<ClosedPart> parts) {
    std::vector<ClosedPart> solid, hollow;
    for (ClosedPart& part : parts) (part.volume_m3 > 0 ? solid : hollow).push_back(std::move(part));
    for (ClosedPart& inner : hollow) {
        ClosedPart* holder = nullptr;
        for (ClosedPart& outer : solid)
            if (within(inner.box, outer.box) && outer.volume_m3 > -inner.volume_m3 &&
                (!holder || outer.volume_m3 < holder->volume_m3))
                holder = &outer;
        if (!holder) { // nothing is around it: its faces look the wrong way
            for (auto& t : inner.triangles) std::swap(t[1], t[2]);
            inner.volume_m3 = -inner.volume_m3;
            solid.push_back(std::move(inner));
            continue;
        }
        holder->triangles.insert(holder->triangles.end(), inner.triangles.begin(), inner.triangles.end());
        holder->volume_m3 += inner.volume_m3;
    }
    return solid;
}

} // namespace

bool is_closed(const TriangleMesh& mesh) {
    const TickMesh ticks = welded(mesh);
    return !ticks.triangles.empty() && closed(ticks.triangles);
}

double volume_of(const TriangleMesh& mesh) {
    const TickMesh ticks = welded(mesh);
    return volume_m3(ticks, ticks.triangles);
}

ConvexCell hull_of(const std::vector<Vec3>& points) {
    std::vector<TickPoint> ticks;
    for (const Vec3& p : points) ticks.push_back(geometry::to_ticks(p));
    std::sort(ticks.begin(), ticks.end(), [](const TickPoint& a, const TickPoint& b) {
        return std::tie(a.x, a.y, a.z) < std::tie(b.x, b.y, b.z);
    });
    ticks.erase(std::unique(ticks.begin(), ticks.end()), ticks.end());
    ConvexCell cell;
    for (const std::vector<int>& loop : geometry::convex_hull(ticks)) {
        ConvexCell::Face face;
        for (const int i : loop) face.loop.push_back(geometry::to_metres(ticks[size_t(i)]));
        Vec3 normal(0);
        for (size_t i = 1; i + 1 < face.loop.size(); ++i)
            normal += area_vector(face.loop[0], face.loop[i], face.loop[i + 1]);
        face.plane.normal = glm::normalize(normal);
        face.plane.d = -glm::dot(face.plane.normal, face.loop[0]);
        cell.faces.push_back(std::move(face));
    }
    return cell;
}

ConvexCell box_cell(const Box3& box) {
    ConvexCell cell;
    if (box.empty() || glm::any(glm::lessThan(box.high - box.low, Vec3(1e-6)))) return cell;
    const auto corner = [&](bool x, bool y, bool z) {
        return Vec3((x ? box.high : box.low).x, (y ? box.high : box.low).y, (z ? box.high : box.low).z);
    };
    const Vec3 a = corner(0, 0, 0), b = corner(1, 0, 0), c = corner(1, 1, 0), d = corner(0, 1, 0),
               e = corner(0, 0, 1), f = corner(1, 0, 1), g = corner(1, 1, 1), h = corner(0, 1, 1);
    cell.faces = {face_through({a, d, c, b}), face_through({e, f, g, h}), face_through({a, b, f, e}),
                  face_through({b, c, g, f}), face_through({c, d, h, g}), face_through({d, a, e, h})};
    return cell;
}

MeshMatter matter_of_faces(const TriangleMesh& mesh, double thickness_m) {
    const TickMesh ticks = welded(mesh);
    MeshMatter out;
    std::vector<ClosedPart> closed_parts;
    for (auto& triangles : parts_of(ticks)) {
        if (closed(triangles)) {
            ClosedPart part{std::move(triangles), 0, {}};
            part.volume_m3 = volume_m3(ticks, part.triangles);
            for (const Vec3& p : places_of(ticks, part.triangles)) part.box.add(p);
            closed_parts.push_back(std::move(part));
            ++out.closed;
            continue;
        }
        ++out.open;
        for (const auto& t : triangles) {
            const auto at = [&](size_t k) { return geometry::to_metres(ticks.points[size_t(t[k])]); };
            out.cells.push_back(slab_behind(at(0), at(1), at(2), thickness_m));
        }
    }
    const double signed_sum =
        std::accumulate(closed_parts.begin(), closed_parts.end(), 0.0,
                        [](double sum, const ClosedPart& p) { return sum + p.volume_m3; });
    out.inside_out = signed_sum < 0;
    for (const ClosedPart& part : with_hollows(std::move(closed_parts))) {
        std::vector<ConvexCell> cells;
        if (part.triangles.size() <= k_most_closed && part.volume_m3 > 0)
            cells = cells_between(ticks, part.triangles, part.volume_m3);
        if (cells.empty()) {
            out.exact = false;
            if (ConvexCell hull = hull_of(places_of(ticks, part.triangles)); !hull.empty())
                cells.push_back(std::move(hull));
        }
        std::move(cells.begin(), cells.end(), std::back_inserter(out.cells));
    }
    return out;
}

} // namespace rubble::build
