#include "edit/body.h"

#include "edit/mesh_cleaning.h"
#include "level/brush_shape.h"

namespace rubble::edit {

namespace {

using Loop = FaceMesh::Loop;

/// Points of two cells that are one, but for rounding.
constexpr double k_same_m = 2e-6;
/// Of a mass that is reshaped: looking for flaws takes time by the square of the faces.
constexpr size_t k_most_parts = 60;

FaceMesh cleaned(const FaceMesh& mesh) {
    return joined(with_shared_walls_gone(with_seams_closed(welded(mesh, k_same_m))));
}

FaceMesh of_seen_faces(const BrushBody& body) {
    FaceMesh mesh;
    for (const auto& p : body.points) mesh.points.push_back(geometry::to_metres(p));
    for (const auto& face : body.faces) mesh.faces.push_back(face.loop);
    return cleaned(mesh);
}

/// The faces of all cells; where cells meet, two lie back to back and go.
FaceMesh of_cells(const BrushBody& body) {
    FaceMesh mesh;
    for (const auto& p : body.points) mesh.points.push_back(geometry::to_metres(p));
    for (const auto& cell : body.cells)
        for (const auto& face : cell) mesh.faces.push_back(face.loop);
    return cleaned(mesh);
}

} // namespace

std::optional<Brush> as_body(const Brush& brush) {
    if (brush.shape == Shape::body) return brush;
    if (brush.shape == Shape::mass && parts_of(brush.cells).size() > k_most_parts) return {};
    Brush unplaced = brush;
    unplaced.place = {};
    const BrushBody body = body_of(unplaced);
    FaceMesh mesh = of_seen_faces(body);
    if (flaw_of(mesh) != MeshFlaw::none) mesh = of_cells(body);
    if (flaw_of(mesh) != MeshFlaw::none) return {};
    Brush out = brush;
    out.shape = Shape::body;
    out.points.clear(), out.holes.clear(), out.cells = {};
    return with_mesh(std::move(out), std::move(mesh));
}

FaceMesh mesh_of(const Brush& body) { return {body.corners, body.faces}; }

Brush with_mesh(Brush body, FaceMesh mesh) {
    body.corners = std::move(mesh.points);
    body.faces = std::move(mesh.faces);
    return measured(std::move(body));
}

} // namespace rubble::edit
