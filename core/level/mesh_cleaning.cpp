#include "level/mesh_cleaning.h"
#include "base/tolerance.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace rubble {

namespace {

using Loop = FaceMesh::Loop;

const Vec3& at(const FaceMesh& mesh, int point) { return mesh.points[size_t(point)]; }

/// A loop turned so that its least index comes first, to compare loops.
Loop from_least(Loop loop) {
    std::rotate(loop.begin(), std::min_element(loop.begin(), loop.end()), loop.end());
    return loop;
}

void drop_faces_back_to_back(FaceMesh& mesh) {
    std::map<Loop, size_t> seen;
    std::vector<bool> gone(mesh.faces.size());
    for (size_t f = 0; f < mesh.faces.size(); ++f) {
        const Loop loop = from_least(mesh.faces[f]);
        Loop back(loop.rbegin(), loop.rend());
        const auto other = seen.find(from_least(back));
        if (other != seen.end()) {
            gone[f] = gone[other->second] = true;
            seen.erase(other);
        } else {
            seen[loop] = f;
        }
    }
    size_t index = 0;
    std::erase_if(mesh.faces, [&](const Loop&) { return gone[index++]; });
}

/// Whether a point lies on the inner part of a segment; `along` says how far, from 0 to 1.
bool lies_on(const Vec3& a, const Vec3& b, const Vec3& p, double& along) {
    const Vec3 way = b - a;
    const double square = glm::dot(way, way);
    along = square > 0 ? glm::dot(p - a, way) / square : 0;
    const double margin = square > 0 ? tolerance::on_edge_m / std::sqrt(square) : 1;
    return along > margin && along < 1 - margin && glm::length(a + way * along - p) < tolerance::on_edge_m;
}

bool is_plane(const FaceMesh& mesh, const Loop& loop) { return bend_of(mesh.points, loop) <= most_bend_m; }

/// Two loops that share edges as one; nothing where it would have a hole or pass a point twice.
Loop merged(const Loop& a, const Loop& b) {
    const size_t n = a.size(), m = b.size();
    auto shares_edge_from = [&](size_t i) {
        const int p = a[i], q = a[(i + 1) % n];
        const auto in_b = std::find(b.begin(), b.end(), q);
        return in_b != b.end() && b[size_t(in_b - b.begin() + 1) % m] == p;
    };
    // The one run of shared edges: from a corner after which they do not, on to the last.
    size_t starts = 0, first = 0, shared = 0;
    for (size_t i = 0; i < n; ++i) {
        if (!shares_edge_from(i)) continue;
        ++shared;
        if (!shares_edge_from((i + n - 1) % n)) ++starts, first = i;
    }
    if (starts != 1 || shared >= std::min(n, m)) return {};
    Loop out;
    for (size_t k = shared; k <= n; ++k) out.push_back(a[(first + k) % n]);
    const size_t back = size_t(std::find(b.begin(), b.end(), a[first]) - b.begin());
    for (size_t k = 1; k + shared < m; ++k) out.push_back(b[(back + k) % m]);
    if (std::set<int>(out.begin(), out.end()).size() != out.size()) return {};
    return out;
}

void drop_straight_corners(FaceMesh& mesh, const std::set<int>& candidates) {
    std::map<int, std::vector<size_t>> faces_of;
    for (size_t f = 0; f < mesh.faces.size(); ++f)
        for (const int p : mesh.faces[f]) faces_of[p].push_back(f);
    for (const int p : candidates) {
        const auto faces = faces_of.find(p);
        if (faces == faces_of.end() || faces->second.size() != 2) continue;
        const Loop& loop = mesh.faces[faces->second[0]];
        const size_t i = size_t(std::find(loop.begin(), loop.end(), p) - loop.begin()), n = loop.size();
        double along;
        if (!lies_on(at(mesh, loop[(i + n - 1) % n]), at(mesh, loop[(i + 1) % n]), at(mesh, p), along))
            continue;
        if (mesh.faces[faces->second[0]].size() < 4 || mesh.faces[faces->second[1]].size() < 4) continue;
        for (const size_t f : faces->second) std::erase(mesh.faces[f], p);
    }
}

/// Two faces of one plane, seen from the same side.
bool in_one_plane(const FaceMesh& mesh, const Loop& a, const Loop& b) {
    const Vec3 normal = normal_of(mesh.points, a), middle = middle_of(mesh.points, a);
    return glm::dot(normal, normal_of(mesh.points, b)) > 1 - tolerance::nearly_one_way &&
           std::all_of(b.begin(), b.end(), [&](int p) {
               return std::abs(glm::dot(at(mesh, p) - middle, normal)) <= most_bend_m;
           });
}

/// The cut of a loop that leaves two plane faces, best away from the moved points; false where none does.
bool cut_plane(const FaceMesh& mesh, const Loop& loop, const std::set<int>& moved,
               std::pair<Loop, Loop>& parts) {
    int least_moved = 3;
    for (size_t i = 0; i < loop.size(); ++i)
        for (size_t k = i + 2; k < loop.size() - (i == 0 ? 1 : 0); ++k) {
            const int on_moved = int(moved.contains(loop[i])) + int(moved.contains(loop[k]));
            if (on_moved >= least_moved) continue;
            auto cut = cut_between(loop, i, k);
            if (!is_plane(mesh, cut.first) || !is_plane(mesh, cut.second)) continue;
            if (!is_simple(mesh.points, cut.first) || !is_simple(mesh.points, cut.second)) continue;
            least_moved = on_moved, parts = std::move(cut);
        }
    return least_moved < 3;
}

/// The cut of a loop along an edge of another face that leads across it.
bool cut_along_edge(const FaceMesh& mesh, const EdgeFaces& edges, const Loop& loop,
                    std::pair<Loop, Loop>& parts) {
    const size_t n = loop.size();
    for (size_t i = 0; i < n; ++i)
        for (size_t k = i + 2; k < n - (i == 0 ? 1 : 0); ++k) {
            const int a = loop[i], b = loop[k];
            if (!edges.contains({a, b}) && !edges.contains({b, a})) continue;
            if (!holds(mesh.points, loop, (at(mesh, a) + at(mesh, b)) * 0.5)) continue;
            parts = cut_between(loop, i, k);
            return true;
        }
    return false;
}

} // namespace

std::pair<Loop, Loop> cut_between(const Loop& loop, size_t i, size_t k) {
    Loop first(loop.begin() + long(i), loop.begin() + long(k) + 1);
    Loop second(loop.begin() + long(k), loop.end());
    second.insert(second.end(), loop.begin(), loop.begin() + long(i) + 1);
    return {std::move(first), std::move(second)};
}

FaceMesh without_lost_points(const FaceMesh& mesh) {
    std::vector<int> number(mesh.points.size(), -1);
    FaceMesh out;
    for (const Loop& loop : mesh.faces) {
        out.faces.push_back(loop);
        for (int& p : out.faces.back()) {
            int& now = number[size_t(p)];
            if (now < 0) now = int(out.points.size()), out.points.push_back(at(mesh, p));
            p = now;
        }
    }
    return out;
}

FaceMesh welded(const FaceMesh& mesh, double within_m) {
    std::vector<int> root(mesh.points.size());
    std::iota(root.begin(), root.end(), 0);
    auto root_of = [&](int p) {
        while (root[size_t(p)] != p) p = root[size_t(p)];
        return p;
    };
    std::vector<int> by_x(root);
    std::sort(by_x.begin(), by_x.end(), [&](int a, int b) { return at(mesh, a).x < at(mesh, b).x; });
    for (size_t i = 0; i < by_x.size(); ++i)
        for (size_t k = i + 1; k < by_x.size(); ++k) {
            if (at(mesh, by_x[k]).x - at(mesh, by_x[i]).x > within_m) break;
            if (glm::length(at(mesh, by_x[k]) - at(mesh, by_x[i])) <= within_m)
                root[size_t(root_of(by_x[k]))] = root_of(by_x[i]);
        }
    FaceMesh out = mesh;
    std::vector<Vec3> sum(mesh.points.size(), Vec3(0));
    std::vector<int> count(mesh.points.size());
    for (int p = 0; p < int(mesh.points.size()); ++p)
        sum[size_t(root_of(p))] += at(mesh, p), ++count[size_t(root_of(p))];
    for (size_t p = 0; p < mesh.points.size(); ++p)
        if (count[p] > 1) out.points[p] = sum[p] / double(count[p]);
    for (Loop& loop : out.faces) {
        for (int& p : loop) p = root_of(p);
        loop.erase(std::unique(loop.begin(), loop.end()), loop.end());
        while (loop.size() > 1 && loop.front() == loop.back()) loop.pop_back();
    }
    std::erase_if(out.faces, [](const Loop& loop) { return loop.size() < 3; });
    drop_faces_back_to_back(out);
    return without_lost_points(out);
}

FaceMesh with_seams_closed(FaceMesh mesh) {
    mesh = without_lost_points(mesh);
    for (Loop& loop : mesh.faces) {
        Loop out;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            std::vector<std::pair<double, int>> on;
            double along;
            for (int p = 0; p < int(mesh.points.size()); ++p)
                if (p != a && p != b && lies_on(at(mesh, a), at(mesh, b), at(mesh, p), along))
                    on.emplace_back(along, p);
            std::sort(on.begin(), on.end());
            out.push_back(a);
            for (const auto& [place, p] : on) out.push_back(p);
        }
        loop = std::move(out);
    }
    drop_faces_back_to_back(mesh);
    return mesh;
}

FaceMesh with_shared_walls_gone(FaceMesh mesh) {
    std::vector<Loop> whole;
    const EdgeFaces edges = edge_faces(mesh);
    std::vector<Loop> open = mesh.faces;
    while (!open.empty()) {
        const Loop loop = std::move(open.back());
        open.pop_back();
        std::pair<Loop, Loop> parts;
        if (cut_along_edge(mesh, edges, loop, parts))
            open.push_back(std::move(parts.first)), open.push_back(std::move(parts.second));
        else
            whole.push_back(loop);
    }
    mesh.faces = std::move(whole);
    drop_faces_back_to_back(mesh);
    return without_lost_points(mesh);
}

FaceMesh joined(FaceMesh mesh, const std::set<int>& among) {
    std::set<int> touched;
    std::vector<bool> gone(mesh.faces.size());
    for (bool again = true; again;) {
        again = false;
        const EdgeFaces faces = edge_faces(mesh);
        for (const auto& [edge, a] : faces) {
            const auto other = faces.find({edge.second, edge.first});
            if (other == faces.end()) continue;
            const int b = other->second;
            if (a >= b || !among.contains(a) || !among.contains(b) || gone[size_t(a)] || gone[size_t(b)])
                continue;
            Loop &first = mesh.faces[size_t(a)], &second = mesh.faces[size_t(b)];
            if (!in_one_plane(mesh, first, second)) continue;
            Loop both = merged(first, second);
            if (both.empty()) continue;
            touched.insert(first.begin(), first.end());
            touched.insert(second.begin(), second.end());
            first = std::move(both), second.clear(), gone[size_t(b)] = true;
            again = true;
        }
    }
    std::erase_if(mesh.faces, [](const Loop& loop) { return loop.empty(); });
    drop_straight_corners(mesh, touched);
    return without_lost_points(mesh);
}

FaceMesh joined(const FaceMesh& mesh) {
    std::set<int> all;
    for (int f = 0; f < int(mesh.faces.size()); ++f) all.insert(f);
    return joined(mesh, all);
}

FaceMesh with_plane_faces(const FaceMesh& mesh, const std::set<int>& moved) {
    FaceMesh out{mesh.points, {}};
    std::vector<Loop> more;
    for (const Loop& loop : mesh.faces) {
        std::pair<Loop, Loop> parts;
        if (is_plane(mesh, loop)) {
            out.faces.push_back(loop);
        } else if (cut_plane(mesh, loop, moved, parts)) {
            out.faces.push_back(std::move(parts.first)), more.push_back(std::move(parts.second));
        } else {
            auto triangles = triangles_of(mesh.points, loop);
            if (triangles.empty()) triangles.push_back(loop); // a flaw, which others find
            out.faces.push_back(std::move(triangles[0]));
            more.insert(more.end(), triangles.begin() + 1, triangles.end());
        }
    }
    out.faces.insert(out.faces.end(), more.begin(), more.end());
    return out;
}

} // namespace rubble
