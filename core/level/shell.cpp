#include "level/shell.h"

#include <algorithm>

#include <glm/matrix.hpp>

namespace rubble {

namespace {

using Loop = FaceMesh::Loop;

/// The faces around each point.
std::vector<std::vector<int>> faces_around(const FaceMesh& mesh) {
    std::vector<std::vector<int>> out(mesh.points.size());
    for (int f = 0; f < int(mesh.faces.size()); ++f)
        for (const int p : mesh.faces[size_t(f)]) out[size_t(p)].push_back(f);
    return out;
}

/// The shortest way by which a point keeps its distances from all planes around it. Where they do not agree,
/// as at the tip of a cone, it goes so far that no wall is thinner. By the normal equations of n·way =
/// wanted, with a little weight on staying short, which decides where fewer than three planes do.
Vec3 way_inside(const std::vector<Vec3>& normals, const std::vector<double>& wanted) {
    constexpr double k_short = 1e-9, k_least = 0.05;
    glm::dmat3 sum(k_short);
    Vec3 right(0);
    for (size_t i = 0; i < normals.size(); ++i) {
        sum += glm::outerProduct(normals[i], normals[i]);
        right += normals[i] * wanted[i];
    }
    const Vec3 way = glm::inverse(sum) * right;
    double longer = 1;
    for (size_t i = 0; i < normals.size(); ++i) {
        const double reached = glm::dot(normals[i], way);
        if (wanted[i] < 0 && reached < k_least * wanted[i]) longer = std::max(longer, wanted[i] / reached);
    }
    return way * (longer < 1 + 1e-6 ? 1 : longer);
}

} // namespace

std::optional<Shelled> shelled(const FaceMesh& solid, double thickness_m, const std::set<int>& open) {
    if (!(thickness_m > 0) || flaw_of(solid) != MeshFlaw::none) return {};
    std::vector<Vec3> normal;
    for (const Loop& loop : solid.faces) normal.push_back(normal_of(solid.points, loop));
    Shelled shell{solid, {}};
    FaceMesh& out = shell.mesh;
    FaceMesh inner = solid;
    const auto around = faces_around(solid);
    for (size_t p = 0; p < solid.points.size(); ++p) {
        std::vector<Vec3> normals;
        std::vector<double> wanted;
        for (const int f : around[p])
            normals.push_back(normal[size_t(f)]), wanted.push_back(open.contains(f) ? 0 : -thickness_m);
        inner.points[p] = solid.points[p] + way_inside(normals, wanted);
    }
    // The hollow must be a body of its own: in one whose walls meet, faces cross or turn over. Faces may bend
    // where more of them meet in a point than can all keep their distance.
    if (flaw_of(inner, false) != MeshFlaw::none) return {};
    const int first_inner = int(solid.points.size());
    out.points.insert(out.points.end(), inner.points.begin(), inner.points.end());
    out.faces.clear();
    const EdgeFaces beside = edge_faces(solid);
    for (int f = 0; f < int(solid.faces.size()); ++f) {
        const Loop& loop = solid.faces[size_t(f)];
        if (!open.contains(f)) {
            out.faces.push_back(loop);
            shell.faces.push_back({f, false}), shell.faces.push_back({f, true});
            Loop back(loop.rbegin(), loop.rend());
            for (int& p : back) p += first_inner;
            out.faces.push_back(std::move(back));
            continue;
        }
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i], b = loop[(i + 1) % loop.size()];
            if (!open.contains(beside.at({b, a}))) // else the rim runs on into the next open face
                out.faces.push_back({a, b, first_inner + b, first_inner + a}),
                    shell.faces.push_back({f, false});
        }
    }
    return flaw_of(out, false) == MeshFlaw::none ? std::optional(std::move(shell)) : std::nullopt;
}

} // namespace rubble
