#pragma once

#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "geometry/vec.h"

namespace rubble {

/// A closed body by its points and its faces: loops of point indices, counter-clockwise seen from outside,
/// each a simple polygon in one plane. Metres.
struct FaceMesh {
    using Loop = std::vector<int>;
    std::vector<Vec3> points;
    std::vector<Loop> faces;
    bool operator==(const FaceMesh&) const = default;
};

/// What keeps a mesh from being a closed body.
enum class MeshFlaw {
    none,
    open,       ///< an edge without its opposite, or one that two faces run along the same way
    no_area,    ///< a face whose corners lie on a line, or one that crosses itself
    bent,       ///< a face that is not plane
    crossing,   ///< faces that cross or touch each other elsewhere than along their edges
    inside_out, ///< no volume
};

/// Points farther than this from their face's plane make it bent: above the rounding of points that people
/// place to tenths of a millimetre.
inline constexpr double most_bend_m = 1e-4;

/// The first flaw that is found. `bent_too`: whether bent faces count as one. O(n²) in the faces.
MeshFlaw flaw_of(const FaceMesh& mesh, bool bent_too = true);

/// The face that runs along each directed edge.
using EdgeFaces = std::map<std::pair<int, int>, int>;
/// Of all edges.
EdgeFaces edge_faces(const FaceMesh& mesh);

/// Of a loop: its area along its outward normal (Newell's sum, square metres).
Vec3 area_vector(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);
/// Of a loop: its outward normal, of unit length.
Vec3 normal_of(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);
/// Of a loop: the mean of its corners.
Vec3 middle_of(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);
/// How far its points lie from its plane at most.
double bend_of(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);
/// Its triangles, by point indices; every point is a corner of some.
std::vector<FaceMesh::Loop> triangles_of(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);
/// Its convex pieces, by point indices; `holes` in it run the other way round.
std::vector<FaceMesh::Loop> convex_pieces(const std::vector<Vec3>& points, const FaceMesh::Loop& loop,
                                          const std::vector<FaceMesh::Loop>& holes = {});
/// Whether a point in the plane of a loop lies within it.
bool holds(const std::vector<Vec3>& points, const FaceMesh::Loop& loop, const Vec3& p);

/// Whether it is a simple polygon of some area.
bool is_simple(const std::vector<Vec3>& points, const FaceMesh::Loop& loop);

/// Where a way from a place in or on a body first leaves it through a face, other than `face` where that is
/// given; nothing where it does not.
struct MeshExit {
    int face;
    Vec3 at;
    double along; ///< metres
};
/// The exit of a way; see above.
std::optional<MeshExit> exit_along(const FaceMesh& mesh, const Vec3& from, const Vec3& way, int face = -1);

/// In cubic metres; below 0 for one that is inside out.
double volume_of(const FaceMesh& mesh);
/// Whether no point lies before a face, by more than rounding.
bool is_convex(const FaceMesh& mesh);

} // namespace rubble
