#include "level/body_mesh.h"

#include "base/tolerance.h"
#include "level/mesh_cleaning.h"

namespace rubble {

namespace {

FaceMesh cleaned(const FaceMesh& mesh) {
    return joined(with_shared_walls_gone(with_seams_closed(welded(mesh, tolerance::one_corner_m))));
}

FaceMesh with_points_of(const BrushBody& body) {
    FaceMesh mesh;
    for (const auto& p : body.points) mesh.points.push_back(geometry::to_metres(p));
    return mesh;
}

FaceMesh of_seen_faces(const BrushBody& body) {
    FaceMesh mesh = with_points_of(body);
    for (const auto& face : body.faces) mesh.faces.push_back(face.loop);
    return cleaned(mesh);
}

/// The faces of all cells; where cells meet, two lie back to back and go.
FaceMesh of_cells(const BrushBody& body) {
    FaceMesh mesh = with_points_of(body);
    for (const auto& cell : body.cells)
        for (const auto& face : cell) mesh.faces.push_back(face.loop);
    return cleaned(mesh);
}

} // namespace

std::optional<FaceMesh> closed_mesh_of(const BrushBody& body) {
    FaceMesh mesh = of_seen_faces(body);
    if (flaw_of(mesh) != MeshFlaw::none) mesh = of_cells(body);
    if (flaw_of(mesh) != MeshFlaw::none) return {};
    return mesh;
}

} // namespace rubble
