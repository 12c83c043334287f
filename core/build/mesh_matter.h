#pragma once

#include <array>
#include <string>
#include <vector>

#include "geometry/convex_cell.h"

namespace rubble::build {

/// Triangles of any origin, counter-clockwise seen from outside.
struct TriangleMesh {
    std::vector<Vec3> points;
    std::vector<std::array<int, 3>> triangles;
};

/// Convex cells that stand for a mesh.
struct MeshMatter {
    std::vector<geometry::ConvexCell> cells;
    /// Whether what is closed of it is met exactly as it is, and every open face with a slab.
    bool exact = true;
    bool inside_out = false;     ///< closed parts whose faces look inwards; they count turned round
    size_t closed = 0, open = 0; ///< connected parts of either kind
};

/// Whether every edge of a mesh has its opposite, points alike to the tick taken as one.
bool is_closed(const TriangleMesh& mesh);
/// The volume that the faces enclose; below 0 where they look inwards.
double volume_of(const TriangleMesh& mesh);

/// What keeps the character out of the faces of a mesh. Connected closed parts are solid: the room around
/// them is parted along their faces (`build/body_cells`), with the parts inside out that lie within them as
/// hollows. Those that cannot be taken apart so (they meet themselves, or have more than `k_most_closed`
/// faces) are met as their hulls, and `exact` is false. Faces of open parts are slabs of a thickness, behind
/// them.
MeshMatter matter_of_faces(const TriangleMesh& mesh, double thickness_m);
inline constexpr size_t k_most_closed = 6000;

/// The convex hull; empty where all points lie in one plane.
geometry::ConvexCell hull_of(const std::vector<Vec3>& points);
/// A box; empty where it is flat.
geometry::ConvexCell box_cell(const Box3& box);

} // namespace rubble::build
