#pragma once

#include <set>

#include "level/face_mesh.h"

namespace rubble {

// What meshes need before or after they are reshaped. None of these changes the body but within the given
// distances.

/// Points nearer to each other than `within_m` become one, in the middle of them; faces that lose their area
/// so, and pairs of faces that lie on each other the opposite way round, are gone.
FaceMesh welded(const FaceMesh& mesh, double within_m);

/// Points that lie on an edge become corners of the faces along it, so that edges meet whole edges.
FaceMesh with_seams_closed(FaceMesh mesh);

/// Where edges of one face lead across another between two of its corners, the other is cut there; then what
/// lies back to back is gone. So parts that stand wall to wall become one body.
FaceMesh with_shared_walls_gone(FaceMesh mesh);

/// Of `among`, faces that lie in one plane and share an edge become one, as far as that leaves them without
/// holes; then corners on straight edges of two faces are left out.
FaceMesh joined(FaceMesh mesh, const std::set<int>& among);
FaceMesh joined(const FaceMesh& mesh);

/// Bent faces cut into plane ones, along a line between the neighbours of `moved` points where that is
/// enough, else into triangles. What is cut off comes after all other faces, which keep their numbers.
FaceMesh with_plane_faces(const FaceMesh& mesh, const std::set<int>& moved);

/// Without the points that no face has.
FaceMesh without_lost_points(const FaceMesh& mesh);

/// The two parts of a loop cut from its corner number `i` to `k`, which are no neighbours.
std::pair<FaceMesh::Loop, FaceMesh::Loop> cut_between(const FaceMesh::Loop& loop, size_t i, size_t k);

} // namespace rubble
