#include "edit/body.h"

#include "level/body_mesh.h"
#include "level/shapes/shape_kind.h"

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
    out.faces.clear(), out.face_numbers.clear(), out.next_face_number = 0;
    out = with_mesh(std::move(out), std::move(*mesh));
    return with_own_values(with_looks_of(std::move(out), brush));
}

FaceMesh mesh_of(const Brush& body) { return {body.corners, body.faces}; }

namespace {

std::vector<NamedFace> named(const FaceMesh& mesh) {
    std::vector<NamedFace> out;
    for (const auto& loop : mesh.faces) {
        out.emplace_back();
        for (const int p : loop) out.back().corners.push_back(mesh.points[size_t(p)]);
    }
    return out;
}

/// Gives the faces of a mesh the numbers and looks of those that they come from; of several that come from
/// one the largest keeps its number.
void carry_faces(Brush& body, const FaceMesh& mesh) {
    const std::vector<int> from = faces_before(named(mesh_of(body)), named(mesh));
    std::vector<int> heir(body.faces.size(), -1);
    const auto area = [&](int f) { return glm::length(area_vector(mesh.points, mesh.faces[size_t(f)])); };
    for (int f = 0; f < int(from.size()); ++f)
        if (const int was = from[size_t(f)]; was >= 0) {
            int& best = heir[size_t(was)];
            if (best < 0 || area(f) > area(best)) best = f;
        }
    int next = std::max(body.next_face_number, int(body.faces.size()));
    for (const int number : body.face_numbers) next = std::max(next, number + 1);
    std::vector<int> numbers;
    Looks looks;
    bool counted = true;
    for (int f = 0; f < int(from.size()); ++f) {
        const int was = from[size_t(f)];
        const bool same = was >= 0 && heir[size_t(was)] == f;
        numbers.push_back(same ? body_face_name(body, was).number : next++);
        counted &= numbers.back() == f;
        if (was < 0) continue;
        if (const auto look = body.looks.find(body_face_name(body, was)); look != body.looks.end())
            looks[{FacePart::face, numbers.back()}] = look->second;
    }
    body.looks = std::move(looks);
    body.face_numbers = counted ? std::vector<int>() : std::move(numbers);
    body.next_face_number = counted && next == int(mesh.faces.size()) ? 0 : next;
}

} // namespace

Brush with_mesh(Brush body, FaceMesh mesh) {
    // What only moves keeps its faces; what had none before has them counted.
    if (!body.faces.empty() && body.faces != mesh.faces) carry_faces(body, mesh);
    body.corners = std::move(mesh.points);
    body.faces = std::move(mesh.faces);
    return measured(std::move(body));
}

} // namespace rubble::edit
