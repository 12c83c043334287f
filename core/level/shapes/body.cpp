#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

BrushBody body_of_body(const Brush& brush) {
    const FaceMesh mesh{brush.corners, brush.faces};
    std::vector<FaceName> names;
    std::vector<Vec3> normals;
    for (size_t f = 0; f < brush.faces.size(); ++f) {
        names.push_back(body_face_name(brush, int(f)));
        normals.push_back(normal_of(brush.corners, brush.faces[f]));
    }
    if (!is_convex(mesh)) return concave_body(brush, mesh, names);
    return hull_of(brush, brush.corners, [&](const Vec3& normal, const Vec3&) {
        size_t best = 0;
        for (size_t f = 1; f < normals.size(); ++f)
            if (glm::dot(normals[f], normal) > glm::dot(normals[best], normal)) best = f;
        return names[best];
    });
}

std::string problem_of_body(const Brush& brush) {
    for (const Vec3& p : brush.corners)
        for (int axis = 0; axis < 3; ++axis)
            if (!(std::abs(p[axis]) <= geometry::longest_edge_m)) return "points";
    if (brush.corners.size() > most_points || brush.faces.size() > 2 * most_points) return "points";
    if (!brush.face_numbers.empty() && brush.face_numbers.size() != brush.faces.size()) return "face_numbers";
    for (const int number : brush.face_numbers)
        if (number < 0 || number > most_face_number) return "face_numbers";
    if (brush.next_face_number < 0 || brush.next_face_number > most_face_number + 1) return "face_numbers";
    return flaw_of({brush.corners, brush.faces}, false) == MeshFlaw::none ? "" : "faces";
}

Box3 box_of_body(const Brush& brush) {
    Box3 box;
    for (const Vec3& p : brush.corners) box.add(p);
    return box;
}

} // namespace

ShapeKind body() {
    return {.shape = Shape::body,
            .key = "body",
            .word = "body",
            .data = ShapeData::body,
            .body = body_of_body,
            .problem = problem_of_body,
            .own_box = box_of_body};
}

} // namespace rubble::shapes
