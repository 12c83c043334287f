#include "edit/body.h"

#include "level/body_mesh.h"

namespace rubble::edit {

namespace {

/// Of a mass that is reshaped: looking for flaws takes time by the square of the faces.
constexpr size_t k_most_parts = 60;

} // namespace

std::optional<Brush> as_body(const Brush& brush) {
    if (brush.shape == Shape::body) return brush;
    if (brush.shape == Shape::mass && parts_of(brush.cells).size() > k_most_parts) return {};
    Brush unplaced = brush;
    unplaced.place = {};
    std::optional<FaceMesh> mesh = closed_mesh_of(body_of(unplaced));
    if (!mesh) return {};
    Brush out = brush;
    out.shape = Shape::body;
    out.points.clear(), out.holes.clear(), out.cells = {};
    return with_mesh(std::move(out), std::move(*mesh));
}

FaceMesh mesh_of(const Brush& body) { return {body.corners, body.faces}; }

Brush with_mesh(Brush body, FaceMesh mesh) {
    body.corners = std::move(mesh.points);
    body.faces = std::move(mesh.faces);
    return measured(std::move(body));
}

} // namespace rubble::edit
