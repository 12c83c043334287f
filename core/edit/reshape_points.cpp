#include <cmath>

#include "base/angle.h"
#include "base/tolerance.h"
#include "edit/reshaping.h"
#include "level/mesh_cleaning.h"

namespace rubble::edit {

namespace {

/// Points put where `place(point, part)` says, as far as that goes.
Reshaped put(const FaceMesh& mesh, const std::set<int>& points,
             const std::function<Vec3(int, double)>& place) {
    return largest(mesh, [&](double part) -> std::optional<Reshaped> {
        FaceMesh moved = mesh;
        for (const int p : points) moved.points[size_t(p)] = place(p, part);
        Reshaped out;
        if (auto whole = sound(moved, points)) {
            out.mesh = std::move(*whole), out.points = points;
            return out;
        }
        const FaceMesh one = welded(moved, tolerance::on_each_other_m);
        if (one.points.size() == moved.points.size()) return {};
        std::set<int> put_there;
        for (int p = 0; p < int(one.points.size()); ++p)
            for (const int q : points)
                if (glm::length(one.points[size_t(p)] - moved.points[size_t(q)]) <
                    2 * tolerance::on_each_other_m)
                    put_there.insert(p);
        auto welded_mesh = sound(one, put_there);
        if (!welded_mesh) return {};
        out.mesh = std::move(*welded_mesh);
        return out;
    });
}

/// The way on which a point of a face best comes onto a plane: along its one edge that leads elsewhere, which
/// leaves the faces beside that edge plane; else straight.
Vec3 way_out(const FaceMesh& mesh, int point, const std::set<int>& own, const Vec3& normal) {
    std::set<int> others;
    for (const auto& [edge, face] : edge_faces(mesh))
        if (edge.first == point && !own.contains(edge.second)) others.insert(edge.second);
    if (others.size() != 1) return normal;
    const Vec3 way = glm::normalize(mesh.points[size_t(*others.begin())] - mesh.points[size_t(point)]);
    return std::abs(glm::dot(way, normal)) > 0.2 ? way : normal;
}

Vec3 turned(const Vec3& p, const Vec3& axis, double deg) {
    const auto [c, s] = cos_sin(deg);
    return p * c + glm::cross(axis, p) * s + axis * (glm::dot(axis, p) * (1 - c));
}

} // namespace

Reshaped points_moved(const FaceMesh& mesh, const std::set<int>& points, const Vec3& by) {
    return put(mesh, points, [&](int p, double part) { return mesh.points[size_t(p)] + by * part; });
}

Reshaped points_turned(const FaceMesh& mesh, const std::set<int>& points, const Vec3& about, const Vec3& axis,
                       double deg) {
    return put(mesh, points, [&](int p, double part) {
        return about + turned(mesh.points[size_t(p)] - about, axis, deg * part);
    });
}

Reshaped points_put(const FaceMesh& mesh, const std::map<int, Vec3>& places) {
    std::set<int> points;
    for (const auto& [point, place] : places) points.insert(point);
    return put(mesh, points, [&](int point, double part) {
        const Vec3& from = mesh.points[size_t(point)];
        return from + (places.at(point) - from) * part;
    });
}

Reshaped points_welded(const FaceMesh& mesh, double within_m) {
    FaceMesh one = welded(mesh, within_m);
    if (one.points.size() == mesh.points.size()) return refused(mesh);
    auto whole = sound(std::move(one));
    if (!whole) return refused(mesh);
    Reshaped out;
    out.done = true, out.mesh = std::move(*whole);
    return out;
}

Reshaped faces_straightened(const FaceMesh& mesh, const std::set<int>& faces) {
    Vec3 area(0), middle(0);
    std::set<int> points;
    for (const int f : faces) {
        const auto& loop = mesh.faces[size_t(f)];
        area += area_vector(mesh.points, loop);
        points.insert(loop.begin(), loop.end());
    }
    if (glm::length(area) < 1e-9) return refused(mesh);
    const Vec3 normal = glm::normalize(area);
    for (const int p : points) middle += mesh.points[size_t(p)] / double(points.size());
    FaceMesh straight = mesh;
    for (const int p : points) {
        Vec3& at = straight.points[size_t(p)];
        const Vec3 way = way_out(mesh, p, points, normal);
        at -= way * (glm::dot(at - middle, normal) / glm::dot(way, normal));
    }
    auto whole = sound(joined(straight, faces));
    if (!whole) return refused(mesh);
    Reshaped out;
    out.done = true, out.mesh = std::move(*whole);
    return out;
}

} // namespace rubble::edit
