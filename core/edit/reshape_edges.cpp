#include <algorithm>
#include <cmath>
#include <numbers>

#include "edit/reshaping.h"
#include "level/mesh_cleaning.h"

namespace rubble::edit {

namespace {

using Loop = FaceMesh::Loop;

/// Rounds edges of a mesh. In each face a corner moves inward from the edges that are rounded; between the
/// corners of two neighbouring faces an arc spans what was the edge.
class EdgeRounder {
public:
    EdgeRounder(const FaceMesh& mesh, const std::set<MeshEdge>& edges, double width, int segments)
        : mesh_(mesh),
          edges_(edges),
          faces_(edge_faces(mesh)),
          width_(width),
          segments_(segments),
          out_{mesh.points, {}} {}

    /// Nothing where more or fewer than three faces meet at the end of an edge.
    std::optional<FaceMesh> rounded() {
        for (const MeshEdge& edge : edges_)
            for (const int v : {edge.a, edge.b})
                if (!chosen_.contains(v) && !note_end(v)) return {};
        for (size_t f = 0; f < mesh_.faces.size(); ++f) out_.faces.push_back(new_loop(int(f)));
        for (const MeshEdge& edge : edges_) add_strips(edge);
        for (const auto& [v, count] : chosen_)
            if (count == 3) add_cap(v);
        return without_lost_points(out_);
    }

private:
    const Vec3& at(int p) const { return mesh_.points[size_t(p)]; }
    Vec3 way(int from, int to) const { return glm::normalize(at(to) - at(from)); }
    bool is_chosen(int p, int q) const { return edges_.contains({p, q}); }
    int add(const Vec3& p) {
        out_.points.push_back(p);
        return int(out_.points.size()) - 1;
    }

    bool note_end(int v) {
        int faces = 0, chosen = 0;
        for (const Loop& loop : mesh_.faces) {
            const auto i = std::find(loop.begin(), loop.end(), v);
            if (i == loop.end()) continue;
            ++faces;
            chosen += is_chosen(v, i + 1 == loop.end() ? loop[0] : *(i + 1));
        }
        chosen_[v] = chosen;
        return faces == 3;
    }

    /// The point on an edge that is not rounded to which its end `v` goes.
    int slid(int v, int to, int beside) {
        const auto [found, added] = slid_.try_emplace({v, to}, -1);
        if (added) {
            const double sine = glm::length(glm::cross(way(v, to), way(v, beside)));
            found->second = add(at(v) + way(v, to) * (width_ / std::max(sine, 0.1)));
        }
        return found->second;
    }

    /// Where the corner `v` of a face goes, between its neighbours in the face.
    int corner(int face, int before, int v, int after) {
        const bool rounds_before = is_chosen(before, v), rounds_after = is_chosen(v, after);
        if (!rounds_after) return slid(v, after, before);
        if (!rounds_before) return slid(v, before, after);
        const auto [found, added] = inner_.try_emplace({face, v}, -1);
        if (added) {
            const Vec3 normal = normal_of(mesh_.points, mesh_.faces[size_t(face)]);
            const Vec3 a = glm::cross(normal, way(before, v)), b = glm::cross(normal, way(v, after));
            found->second = add(at(v) + (a + b) * (width_ / std::max(1 + glm::dot(a, b), 0.1)));
        }
        return found->second;
    }

    int corner(int face, int v) {
        const Loop& loop = mesh_.faces[size_t(face)];
        const size_t n = loop.size(), i = size_t(std::find(loop.begin(), loop.end(), v) - loop.begin());
        return corner(face, loop[(i + n - 1) % n], v, loop[(i + 1) % n]);
    }

    /// The points from one new corner to another, both among them.
    Loop arc(int from, int to, const Vec3& apex) {
        const auto [found, added] = arcs_.try_emplace({from, to});
        if (!added) return found->second;
        Loop points{from};
        const Vec3 a = out_.points[size_t(from)] - apex, b = out_.points[size_t(to)] - apex;
        for (int k = 1; k < segments_; ++k) {
            const double angle = std::numbers::pi / 2 * k / segments_;
            points.push_back(add(apex + a * (1 - std::sin(angle)) + b * (1 - std::cos(angle))));
        }
        points.push_back(to);
        arcs_[{from, to}] = points;
        arcs_[{to, from}] = Loop(points.rbegin(), points.rend());
        return points;
    }

    /// The arc across an edge at its end `v`, from the face that runs from `v` to `other`, or back, to the
    /// next.
    Loop arc_across(int v, int other, int from_face, int to_face) {
        const int a = corner(from_face, v), b = corner(to_face, v);
        Vec3 apex = at(v);
        if (chosen_[v] == 3) {
            const Vec3 along = way(v, other);
            apex +=
                along * (glm::dot(out_.points[size_t(a)] + out_.points[size_t(b)] - apex * 2.0, along) / 2);
        }
        return arc(a, b, apex);
    }

    Loop new_loop(int f) {
        const Loop& loop = mesh_.faces[size_t(f)];
        const size_t n = loop.size();
        Loop out;
        for (size_t i = 0; i < n; ++i) {
            const int before = loop[(i + n - 1) % n], v = loop[i], after = loop[(i + 1) % n];
            if (!chosen_.contains(v)) {
                out.push_back(v);
            } else if (is_chosen(before, v) || is_chosen(v, after)) {
                out.push_back(corner(f, before, v, after));
            } else { // across the end of the one edge that is rounded here
                const int first = faces_.at({v, before}), second = faces_.at({after, v});
                const int a = corner(first, v), b = corner(second, v);
                for (const int p : arc(a, b, at(v))) out.push_back(p);
            }
        }
        return out;
    }

    void add_strips(const MeshEdge& edge) {
        const int a_face = faces_.at({edge.a, edge.b}), b_face = faces_.at({edge.b, edge.a});
        const Loop here = arc_across(edge.a, edge.b, a_face, b_face),
                   there = arc_across(edge.b, edge.a, a_face, b_face);
        for (size_t k = 0; k + 1 < here.size(); ++k)
            out_.faces.push_back({there[k], here[k], here[k + 1], there[k + 1]});
    }

    /// Where three rounded edges meet, a part of a ball.
    void add_cap(int v) {
        std::vector<int> others;
        for (const MeshEdge& edge : edges_)
            if (edge.a == v || edge.b == v) others.push_back(edge.a == v ? edge.b : edge.a);
        Loop rim;
        // Round the corner: from the face that runs out along an edge to the one that comes back along it.
        int other = others[0];
        for (size_t k = 0; k < others.size(); ++k) {
            const int from = faces_.at({other, v}), to = faces_.at({v, other});
            Loop points = arc_across(v, other, to, from);
            std::reverse(points.begin(), points.end());
            rim.insert(rim.end(), points.begin(), points.end() - 1);
            const Loop& loop = mesh_.faces[size_t(to)];
            const size_t n = loop.size(), i = size_t(std::find(loop.begin(), loop.end(), v) - loop.begin());
            other = loop[(i + n - 1) % n];
        }
        if (segments_ == 1) {
            out_.faces.push_back({rim[0], rim[1], rim[2]});
            return;
        }
        add_ball_part(rim, v);
    }

    /// Rows of triangles from one corner of the rim to the side opposite, on the ball that touches the three
    /// faces in the corners of the rim.
    void add_ball_part(const Loop& rim, int v) {
        const int n = segments_;
        auto rim_at = [&](int i) { return rim[size_t((i + 3 * n) % (3 * n))]; };
        auto place = [&](int p) { return out_.points[size_t(p)]; };
        const Vec3 centre = (place(rim_at(0)) + place(rim_at(n)) + place(rim_at(2 * n)) - at(v)) / 2.0;
        const double radius = glm::length(place(rim_at(0)) - centre);
        Loop row{rim_at(0)};
        for (int r = 1; r <= n; ++r) {
            const int first = rim_at(r), last = rim_at(-r);
            Loop next{first};
            for (int s = 1; s < r; ++s)
                next.push_back(r == n ? rim_at(n + s)
                                      : add(centre + between(place(first) - centre, place(last) - centre,
                                                             double(s) / r) *
                                                         radius));
            next.push_back(last);
            for (size_t s = 0; s < row.size(); ++s) {
                out_.faces.push_back({row[s], next[s], next[s + 1]});
                if (s + 1 < row.size()) out_.faces.push_back({row[s], next[s + 1], row[s + 1]});
            }
            row = std::move(next);
        }
    }

    /// A direction of unit length a part of the angle from one to another.
    static Vec3 between(const Vec3& a, const Vec3& b, double part) {
        const Vec3 u = glm::normalize(a), across = glm::cross(glm::cross(u, b), u);
        const double angle = std::atan2(glm::length(glm::cross(u, b)), glm::dot(u, b)) * part;
        return u * std::cos(angle) + glm::normalize(across) * std::sin(angle);
    }

    const FaceMesh& mesh_;
    const std::set<MeshEdge>& edges_;
    EdgeFaces faces_;
    double width_;
    int segments_;
    FaceMesh out_;
    std::map<int, int> chosen_; ///< how many rounded edges end in each point
    std::map<std::pair<int, int>, int> slid_, inner_;
    std::map<std::pair<int, int>, Loop> arcs_;
};

} // namespace

Reshaped edges_rounded(const FaceMesh& mesh, const std::set<MeshEdge>& edges, double width_m, int segments) {
    return largest(mesh, [&](double part) -> std::optional<Reshaped> {
        auto rounded = EdgeRounder(mesh, edges, width_m * part, std::max(segments, 1)).rounded();
        if (!rounded) return {};
        auto whole = sound(std::move(*rounded));
        if (!whole) return {};
        Reshaped out;
        out.mesh = std::move(*whole);
        return out;
    });
}

} // namespace rubble::edit
