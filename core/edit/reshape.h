#pragma once

#include <map>
#include <set>
#include <vector>

#include "geometry/convex_cell.h"
#include "level/face_mesh.h"

namespace rubble::edit {

// Changes of a closed body's shape. Whatever they give is again a closed body with plane faces and no face
// that crosses or touches another; what cannot be had so is refused. Metres, in the body's own axes.

/// Two points that an edge joins, the lower number first.
struct MeshEdge {
    int a = 0, b = 0;
    MeshEdge(int p, int q) : a(std::min(p, q)), b(std::max(p, q)) {}
    auto operator<=>(const MeshEdge&) const = default;
};

/// A body after a change, with what was picked in it then.
struct Reshaped {
    bool done = false; ///< else `mesh` is as it was
    double part = 1;   ///< of what was asked for; below 1 where more would turn the body inside out
    FaceMesh mesh;
    std::set<int> points;
    std::set<MeshEdge> edges;
    std::set<int> faces;
};

// Points
// -----------------------------------------------------------------------------------------------------

/// Points moved, as far as the body stays one. Faces that bend are cut into plane ones.
Reshaped points_moved(const FaceMesh& mesh, const std::set<int>& points, const Vec3& by);
/// Points turned about an axis of unit length through a place, counter-clockwise seen against it.
Reshaped points_turned(const FaceMesh& mesh, const std::set<int>& points, const Vec3& about, const Vec3& axis,
                       double deg);
/// Points put to places, as far as that goes.
Reshaped points_put(const FaceMesh& mesh, const std::map<int, Vec3>& places);
/// Those of the points that lie within a distance of each other made one.
Reshaped points_welded(const FaceMesh& mesh, double within_m);
/// The points of several faces, such as a bent one that was cut, put onto one plane, and those faces joined.
Reshaped faces_straightened(const FaceMesh& mesh, const std::set<int>& faces);

// Faces
// ------------------------------------------------------------------------------------------------------

/// Faces pushed along their normals into new matter, or in where `by_m` is negative: then as far as the body
/// stays one, or right through where a face opposite holds the whole way of it.
Reshaped face_pushed(const FaceMesh& mesh, int face, double by_m);
/// A smaller face within a face, `by_m` from all its edges, and the frame around it.
Reshaped face_inset(const FaceMesh& mesh, int face, double by_m);
/// Neighbouring faces that lie in one plane as one.
Reshaped faces_joined(const FaceMesh& mesh, const std::set<int>& faces);

// Edges
// ------------------------------------------------------------------------------------------------------

/// The edges that are cut when the ring of four-cornered faces on either side of an edge is split, each from
/// the same side as `edge` from `a` to `b`.
std::vector<std::pair<int, int>> edge_ring(const FaceMesh& mesh, const MeshEdge& edge);
/// The same edges for picking.
std::set<MeshEdge> ring_of(const FaceMesh& mesh, const MeshEdge& edge);
/// The row of four-cornered faces that a face is part of, on across two opposite ones of its edges; of a face
/// with more or fewer corners itself alone.
std::set<int> face_row(const FaceMesh& mesh, int face, const MeshEdge& across);
/// That ring split at places between 0 and 1 along the edge from its `a`, in order. The new edges are picked.
Reshaped ring_split(const FaceMesh& mesh, const MeshEdge& edge, const std::vector<double>& places);
/// All faces cut along a plane, as with a knife drawn across the body. The new edges are picked.
Reshaped cut_across(const FaceMesh& mesh, const geometry::HalfSpace& plane);
/// The body behind a plane and the one before it, closed there; nothing where the plane does not cross it.
std::vector<FaceMesh> parted(const FaceMesh& mesh, const geometry::HalfSpace& plane);
/// Edges cut off (one segment) or rounded, `width_m` wide on either side. Only where three faces meet at
/// their ends.
Reshaped edges_rounded(const FaceMesh& mesh, const std::set<MeshEdge>& edges, double width_m, int segments);

} // namespace rubble::edit
