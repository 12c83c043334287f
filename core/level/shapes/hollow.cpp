#include "level/shapes/hollow.h"
#include "level/body_mesh.h"
#include "level/shapes/body_maker.h"
#include "level/shell.h"

namespace rubble::shapes {

namespace {

struct NamedShell {
    FaceMesh mesh;
    std::vector<FaceName> names;
};

/// The names of a mesh's faces by those of the body that it was made from.
std::vector<FaceName> names_in(const FaceMesh& mesh, const BrushBody& body) {
    const std::vector<NamedFace> named = named_faces(body);
    std::vector<NamedFace> faces;
    for (const Loop& loop : mesh.faces) {
        NamedFace face;
        for (const int p : loop) face.corners.push_back(mesh.points[size_t(p)]);
        faces.push_back(std::move(face));
    }
    std::vector<FaceName> names;
    for (const int from : faces_before(named, faces))
        names.push_back(from < 0 ? FaceName(FacePart::face, int(names.size()))
                                 : named[size_t(from)].side.name);
    return names;
}

std::optional<NamedShell> named_shell(const Brush& brush) {
    Brush solid = brush;
    solid.shell_m = 0;
    solid.place = {};
    const BrushBody body = body_of(solid);
    // Longer surfaces take longer than a frame to look over.
    constexpr size_t k_most_faces = 1000;
    if (std::max(body.faces.size(), body.cells.size() * 6) > k_most_faces) return {};
    const auto mesh = closed_mesh_of(body);
    if (!mesh) return {};
    std::set<int> open;
    for (size_t f = 0; f < mesh->faces.size(); ++f)
        if (brush.open_sides.contains(side_towards(area_vector(mesh->points, mesh->faces[f]) / brush.size)))
            open.insert(int(f));
    auto shell = shelled(*mesh, brush.shell_m, open);
    if (!shell) return {};
    NamedShell out{std::move(shell->mesh), {}};
    const std::vector<FaceName> names = names_in(*mesh, body);
    for (const ShellFace& face : shell->faces) {
        out.names.push_back(names[size_t(face.of)]);
        out.names.back().inner = face.inner;
    }
    return out;
}

} // namespace

BrushBody shell(const Brush& brush) {
    const auto shell = named_shell(brush);
    return shell ? concave_body(brush, shell->mesh, shell->names) : BrushBody{};
}

std::optional<FaceMesh> shell_mesh(const Brush& brush) {
    auto shell = named_shell(brush);
    return shell ? std::optional(std::move(shell->mesh)) : std::nullopt;
}

} // namespace rubble::shapes
