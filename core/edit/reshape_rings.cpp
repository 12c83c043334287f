#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "edit/reshaping.h"
#include "level/mesh_cleaning.h"

namespace rubble::edit {

namespace {

using Loop = FaceMesh::Loop;
using Directed = std::pair<int, int>;

/// In a four-cornered face the edge opposite to one it runs along, seen from the same end.
std::optional<Directed> opposite_in(const Loop& loop, const Directed& edge) {
    if (loop.size() != 4) return {};
    const size_t i = size_t(std::find(loop.begin(), loop.end(), edge.first) - loop.begin());
    if (loop[(i + 1) % 4] != edge.second) return {};
    return Directed{loop[(i + 3) % 4], loop[(i + 2) % 4]};
}

/// The ring from an edge on, over the face that runs along it; `closed` where it came back.
std::vector<Directed> ring_from(const FaceMesh& mesh, const EdgeFaces& faces, Directed edge, bool& closed) {
    std::vector<Directed> out;
    const Directed first = edge;
    for (;;) {
        const auto face = faces.find(edge);
        if (face == faces.end()) return out;
        const auto next = opposite_in(mesh.faces[size_t(face->second)], edge);
        if (!next) return out;
        if (MeshEdge(next->first, next->second) == MeshEdge(first.first, first.second)) {
            closed = true;
            return out;
        }
        if (std::any_of(out.begin(), out.end(), [&](const Directed& e) {
                return MeshEdge(e.first, e.second) == MeshEdge(next->first, next->second);
            }))
            return out; // it crosses itself
        out.push_back(*next);
        edge = *next;
    }
}

/// New points on edges, once for all faces that share them.
class EdgePoints {
public:
    explicit EdgePoints(FaceMesh& mesh) : mesh_(mesh) {}
    int at(const MeshEdge& edge, const Vec3& place) {
        const auto [found, added] = points_.try_emplace(edge, int(mesh_.points.size()));
        if (added) mesh_.points.push_back(place);
        return found->second;
    }

private:
    FaceMesh& mesh_;
    std::map<MeshEdge, int> points_;
};

/// Cuts a face, whose corners on the plane are marked by a distance of 0, along the plane.
class FaceCutter {
public:
    FaceCutter(const FaceMesh& mesh, const std::vector<double>& distance, const Vec3& normal)
        : mesh_(mesh),
          distance_(distance),
          normal_(normal) {}

    void cut(const Loop& loop) {
        const auto chord = chord_of(loop);
        if (!chord) {
            faces.push_back(loop);
            return;
        }
        edges.insert({loop[chord->first], loop[chord->second]});
        const auto [first, second] =
            cut_between(loop, std::min(chord->first, chord->second), std::max(chord->first, chord->second));
        cut(first), cut(second);
    }

    std::vector<Loop> faces;
    std::set<MeshEdge> edges;

private:
    /// Two corners on the plane with the inside of the face between them.
    std::optional<std::pair<size_t, size_t>> chord_of(const Loop& loop) const {
        const Vec3 line = glm::cross(normal_, normal_of(mesh_.points, loop));
        std::vector<size_t> on;
        for (size_t i = 0; i < loop.size(); ++i)
            if (distance_[size_t(loop[i])] == 0) on.push_back(i);
        std::sort(on.begin(), on.end(), [&](size_t a, size_t b) {
            return glm::dot(mesh_.points[size_t(loop[a])], line) <
                   glm::dot(mesh_.points[size_t(loop[b])], line);
        });
        for (size_t k = 0; k + 1 < on.size(); ++k) {
            const size_t apart = on[k] > on[k + 1] ? on[k] - on[k + 1] : on[k + 1] - on[k];
            if (apart == 1 || apart + 1 == loop.size()) continue;
            const Vec3 middle =
                (mesh_.points[size_t(loop[on[k]])] + mesh_.points[size_t(loop[on[k + 1]])]) * 0.5;
            if (holds(mesh_.points, loop, middle)) return std::pair(on[k], on[k + 1]);
        }
        return {};
    }

    const FaceMesh& mesh_;
    const std::vector<double>& distance_;
    Vec3 normal_;
};

/// How far points lie before a plane; 0 for all that lie on it but for rounding.
std::vector<double> distances(const std::vector<Vec3>& points, const geometry::HalfSpace& plane) {
    std::vector<double> out;
    for (const Vec3& p : points) {
        const double d = plane.distance(p);
        out.push_back(std::abs(d) < tolerance::rounding_m ? 0 : d);
    }
    return out;
}

/// The closed lines along which faces end, run the way that faces closing them must.
std::vector<Loop> open_rings(const FaceMesh& mesh) {
    std::map<int, int> next;
    const EdgeFaces faces = edge_faces(mesh);
    for (const auto& [edge, face] : faces)
        if (!faces.contains({edge.second, edge.first}) && !next.emplace(edge.second, edge.first).second)
            return {};
    std::vector<Loop> out;
    while (!next.empty()) {
        Loop ring;
        for (auto at = next.begin(); at != next.end();) {
            ring.push_back(at->first);
            const int to = at->second;
            next.erase(at);
            at = next.find(to);
        }
        out.push_back(std::move(ring));
    }
    return out;
}

/// The faces on the back of a plane, closed along it.
std::optional<FaceMesh> closed_behind(const FaceMesh& cut, const geometry::HalfSpace& plane) {
    FaceMesh out{cut.points, {}};
    for (const Loop& loop : cut.faces) {
        double most = 0;
        for (const int p : loop)
            if (const double d = plane.distance(cut.points[size_t(p)]); std::abs(d) > std::abs(most))
                most = d;
        if (most < 0) out.faces.push_back(loop);
    }
    std::vector<Loop> rims, holes;
    for (Loop& ring : open_rings(out)) {
        const bool rim = glm::dot(area_vector(out.points, ring), plane.normal) > 0;
        (rim ? rims : holes).push_back(std::move(ring));
    }
    if (rims.empty()) return {};
    const size_t first = out.faces.size();
    for (const Loop& rim : rims) {
        std::vector<Loop> own;
        for (const Loop& hole : holes)
            if (holds(out.points, rim, out.points[size_t(hole[0])])) own.push_back(hole);
        if (own.empty())
            out.faces.push_back(rim);
        else
            for (Loop& piece : convex_pieces(out.points, rim, own)) out.faces.push_back(std::move(piece));
    }
    std::set<int> lids;
    for (size_t f = first; f < out.faces.size(); ++f) lids.insert(int(f));
    return sound(joined(with_seams_closed(std::move(out)), lids));
}

} // namespace

std::vector<Directed> edge_ring(const FaceMesh& mesh, const MeshEdge& edge) {
    const EdgeFaces faces = edge_faces(mesh);
    bool closed = false;
    std::vector<Directed> ring = ring_from(mesh, faces, {edge.a, edge.b}, closed);
    ring.insert(ring.begin(), {edge.a, edge.b});
    if (closed) return ring;
    // The other way round: the face beyond runs along the edge from its other end.
    for (auto [b, a] : ring_from(mesh, faces, {edge.b, edge.a}, closed)) ring.insert(ring.begin(), {a, b});
    return ring;
}

std::set<MeshEdge> ring_of(const FaceMesh& mesh, const MeshEdge& edge) {
    std::set<MeshEdge> out;
    for (const auto& [a, b] : edge_ring(mesh, edge)) out.insert({a, b});
    return out;
}

std::set<int> face_row(const FaceMesh& mesh, int face, const MeshEdge& across) {
    std::set<int> row{face};
    if (mesh.faces[size_t(face)].size() != 4) return row;
    const std::set<MeshEdge> ring = ring_of(mesh, across);
    for (int f = 0; f < int(mesh.faces.size()); ++f) {
        const Loop& loop = mesh.faces[size_t(f)];
        int in_ring = 0;
        for (size_t i = 0; i < loop.size(); ++i)
            in_ring += int(ring.contains({loop[i], loop[(i + 1) % loop.size()]}));
        if (loop.size() == 4 && in_ring >= 2) row.insert(f);
    }
    return row;
}

Reshaped ring_split(const FaceMesh& mesh, const MeshEdge& edge, const std::vector<double>& places) {
    FaceMesh cut = mesh;
    std::map<MeshEdge, std::pair<int, std::vector<int>>> new_points; // the end from which, and the points
    for (const auto& [a, b] : edge_ring(mesh, edge)) {
        auto& [from, points] = new_points[{a, b}];
        from = a;
        for (const double place : places) {
            points.push_back(int(cut.points.size()));
            cut.points.push_back(mesh.points[size_t(a)] +
                                 (mesh.points[size_t(b)] - mesh.points[size_t(a)]) * place);
        }
    }
    auto between = [&](int a, int b) -> std::vector<int> {
        const auto found = new_points.find({a, b});
        if (found == new_points.end()) return {};
        std::vector<int> points = found->second.second;
        if (found->second.first != a) std::reverse(points.begin(), points.end());
        return points;
    };
    Reshaped out;
    cut.faces.clear();
    for (const Loop& loop : mesh.faces) {
        Loop with;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            with.push_back(a);
            for (const int p : between(a, b)) with.push_back(p);
        }
        // Along one side and back along the other, the strips between them.
        for (size_t side = 0; side < 2 && loop.size() == 4; ++side) {
            const auto there = between(loop[side], loop[side + 1]),
                       back = between(loop[(side + 3) % 4], loop[side + 2]);
            if (there.empty() || back.empty()) continue;
            int left = loop[side], right = loop[(side + 3) % 4];
            for (size_t k = 0; k < there.size(); ++k) {
                cut.faces.push_back({left, there[k], back[k], right});
                out.edges.insert({there[k], back[k]});
                left = there[k], right = back[k];
            }
            with = {left, loop[side + 1], loop[side + 2], right};
            break;
        }
        cut.faces.push_back(std::move(with));
    }
    auto whole = sound(std::move(cut));
    if (!whole || out.edges.empty()) return refused(mesh);
    out.done = true, out.mesh = std::move(*whole);
    return out;
}

Reshaped cut_across(const FaceMesh& mesh, const geometry::HalfSpace& plane) {
    FaceMesh cut = mesh;
    const std::vector<double> before = distances(mesh.points, plane);
    EdgePoints points(cut);
    for (Loop& loop : cut.faces) {
        Loop with;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            const double here = before[size_t(a)], next = before[size_t(b)];
            with.push_back(a);
            if (here * next < 0)
                with.push_back(points.at({a, b}, mesh.points[size_t(a)] +
                                                     (mesh.points[size_t(b)] - mesh.points[size_t(a)]) *
                                                         (here / (here - next))));
        }
        loop = std::move(with);
    }
    std::vector<double> now = before;
    now.resize(cut.points.size(), 0);
    FaceCutter cutter(cut, now, plane.normal);
    for (const Loop& loop : cut.faces) cutter.cut(loop);
    if (cutter.edges.empty()) return refused(mesh);
    auto whole = sound({cut.points, cutter.faces});
    if (!whole) return refused(mesh);
    Reshaped out;
    out.done = true, out.mesh = std::move(*whole), out.edges = std::move(cutter.edges);
    return out;
}

std::vector<FaceMesh> parted(const FaceMesh& mesh, const geometry::HalfSpace& plane) {
    const Reshaped cut = cut_across(mesh, plane);
    const FaceMesh& whole = cut.done ? cut.mesh : mesh;
    auto back = closed_behind(whole, plane), front = closed_behind(whole, plane.opposite());
    if (!back || !front) return {};
    return {std::move(*back), std::move(*front)};
}

} // namespace rubble::edit
