#pragma once

#include <optional>

#include "level/brush_shape.h"
#include "level/face_mesh.h"

namespace rubble {

/// The surface of a brush's body as one closed mesh, in metres: cells that stand wall to wall become one,
/// and faces of one plane are joined as far as they have no holes then. Nothing where the surface touches or
/// crosses itself.
std::optional<FaceMesh> closed_mesh_of(const BrushBody& body);

} // namespace rubble
