#include "edit/reshaping.h"

#include <cmath>

#include "level/mesh_cleaning.h"

namespace rubble::edit {

std::optional<FaceMesh> sound(FaceMesh mesh, const std::set<int>& moved) {
    constexpr double k_micrometres = 1e6;
    for (Vec3& p : mesh.points) p = glm::round(p * k_micrometres) / k_micrometres;
    mesh = with_plane_faces(mesh, moved);
    if (flaw_of(mesh) != MeshFlaw::none) return {};
    return mesh;
}

Reshaped refused(const FaceMesh& mesh) {
    Reshaped out;
    out.part = 0;
    out.mesh = mesh;
    return out;
}

Reshaped largest(const FaceMesh& mesh, const std::function<std::optional<Reshaped>(double)>& attempt) {
    constexpr int k_halvings = 9;
    std::optional<Reshaped> best = attempt(1);
    double part = 1;
    if (!best) {
        part = 0;
        for (double step = 0.5; step > std::ldexp(1, -k_halvings); step /= 2)
            if (auto more = attempt(part + step)) best = std::move(more), part += step;
    }
    if (!best) return refused(mesh);
    best->done = true;
    best->part = part;
    return std::move(*best);
}

} // namespace rubble::edit
