#pragma once

#include <span>
#include <vector>

#include "build/prepared_brush.h"

namespace rubble::build {

/// Adds six planes around a body that is to be cut up: the room that is cut.
void add_planes_around(const BrushBody& body, geometry::PlaneTable& planes, BodyPlanes& refs);

/// The convex cells of a body that is given by its bounds; none for another. `refs` as `planes_of` gives
/// them. The room around the body is cut along planes of its faces until no face is left within a piece (a
/// binary partition of space: Thibault and Naylor, "Set Operations on Polyhedra Using Binary Space
/// Partitioning Trees", 1987). Faces choose the cuts, to within the rounding of their corners; the pieces are
/// exact, so they close whatever the faces are.
std::vector<PreparedCell> cells_of(const BrushBody& body, std::span<const geometry::PlaneRef> refs,
                                   const geometry::PlaneTable& planes);

} // namespace rubble::build
