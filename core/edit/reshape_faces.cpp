#include <algorithm>
#include <cmath>

#include "edit/reshaping.h"
#include "level/mesh_cleaning.h"

namespace rubble::edit {

namespace {

using Loop = FaceMesh::Loop;

/// A face in a new place, with a wall from each of its edges.
FaceMesh drawn_out(const FaceMesh& mesh, int face, const Vec3& by) {
    FaceMesh out = mesh;
    const Loop old = mesh.faces[size_t(face)];
    Loop& now = out.faces[size_t(face)];
    for (int& p : now) {
        out.points.push_back(mesh.points[size_t(p)] + by);
        p = int(out.points.size()) - 1;
    }
    const Loop lid = now;
    for (size_t i = 0; i < old.size(); ++i) {
        const size_t k = (i + 1) % old.size();
        out.faces.push_back({old[i], old[k], lid[k], lid[i]});
    }
    return out;
}

std::optional<Reshaped> with_face(std::optional<FaceMesh> mesh, int face) {
    if (!mesh) return {};
    Reshaped out;
    out.done = true;
    out.mesh = std::move(*mesh), out.faces = {face};
    return out;
}

/// A hole from a face to the one opposite it, which must hold the whole end of it and lie within `depth_m`.
std::optional<Reshaped> hole_through(const FaceMesh& mesh, int face, double depth_m) {
    const Loop loop = mesh.faces[size_t(face)];
    const Vec3 way = -normal_of(mesh.points, loop);
    FaceMesh out = mesh;
    Loop end;
    int opposite = -1;
    for (const int p : loop) {
        const auto exit = exit_along(mesh, mesh.points[size_t(p)], way, face);
        if (!exit || exit->along > depth_m + 1e-6 || (opposite >= 0 && opposite != exit->face)) return {};
        opposite = exit->face;
        end.push_back(int(out.points.size()));
        out.points.push_back(exit->at);
    }
    for (size_t i = 0; i < loop.size(); ++i) {
        const size_t k = (i + 1) % loop.size();
        out.faces.push_back({loop[i], loop[k], end[k], end[i]});
    }
    // The end runs the same way round as the face, which is against the opposite face's own way: a hole.
    const size_t first_piece = out.faces.size();
    for (Loop& piece : convex_pieces(out.points, mesh.faces[size_t(opposite)], {end}))
        out.faces.push_back(std::move(piece));
    std::set<int> pieces;
    for (size_t f = first_piece; f < out.faces.size(); ++f) pieces.insert(int(f) - 2);
    for (const int gone : {std::max(face, opposite), std::min(face, opposite)})
        out.faces.erase(out.faces.begin() + gone);
    auto whole = sound(joined(with_seams_closed(std::move(out)), pieces));
    if (!whole) return {};
    Reshaped result;
    result.done = true, result.mesh = std::move(*whole);
    return result;
}

/// A face's loop with all its edges moved inward; nothing where it would turn over.
std::vector<Vec3> inner_loop(const FaceMesh& mesh, const Loop& loop, double by_m) {
    const Vec3 normal = normal_of(mesh.points, loop);
    const size_t n = loop.size();
    auto at = [&](size_t i) { return mesh.points[size_t(loop[i % n])]; };
    std::vector<Vec3> out;
    for (size_t i = 0; i < n; ++i) {
        const Vec3 before = glm::cross(normal, glm::normalize(at(i) - at(i + n - 1))),
                   after = glm::cross(normal, glm::normalize(at(i + 1) - at(i)));
        const double both = 1 + glm::dot(before, after);
        if (both < 1e-3) return {};
        out.push_back(at(i) + (before + after) * (by_m / both));
    }
    for (size_t i = 0; i < n; ++i)
        if (glm::dot(out[(i + 1) % n] - out[i], at(i + 1) - at(i)) <= 1e-9) return {};
    return out;
}

} // namespace

Reshaped face_pushed(const FaceMesh& mesh, int face, double by_m) {
    const Loop& loop = mesh.faces[size_t(face)];
    const Vec3 normal = normal_of(mesh.points, loop);
    auto pushed = [&](double by) { return with_face(sound(drawn_out(mesh, face, normal * by)), face); };
    if (by_m >= 0) return largest(mesh, [&](double part) { return pushed(by_m * part); });
    // A face whose walls go straight back is itself moved in; one within a frame leaves a pocket.
    constexpr double k_trial_m = 0.002;
    if (!pushed(-std::min(k_trial_m, -by_m))) {
        Reshaped moved = points_moved(mesh, std::set<int>(loop.begin(), loop.end()), normal * by_m);
        if (moved.done) moved.points.clear(), moved.faces = {face};
        return moved;
    }
    if (auto pocket = pushed(by_m)) return *pocket;
    if (auto through = hole_through(mesh, face, -by_m)) return *through;
    return largest(mesh, [&](double part) { return pushed(by_m * part); });
}

Reshaped face_inset(const FaceMesh& mesh, int face, double by_m) {
    return largest(mesh, [&](double part) -> std::optional<Reshaped> {
        const auto inner = inner_loop(mesh, mesh.faces[size_t(face)], by_m * part);
        if (inner.empty()) return {};
        FaceMesh out = drawn_out(mesh, face, Vec3(0));
        for (size_t i = 0; i < inner.size(); ++i) out.points[mesh.points.size() + i] = inner[i];
        return with_face(sound(std::move(out)), face);
    });
}

Reshaped faces_joined(const FaceMesh& mesh, const std::set<int>& faces) {
    auto whole = sound(joined(mesh, faces));
    if (!whole || whole->faces.size() == mesh.faces.size()) return refused(mesh);
    Reshaped out;
    out.done = true, out.mesh = std::move(*whole);
    return out;
}

} // namespace rubble::edit
