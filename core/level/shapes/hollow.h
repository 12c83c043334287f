#pragma once

#include <optional>

#include "level/brush_shape.h"
#include "level/face_mesh.h"

namespace rubble::shapes {

/// A brush of any other shape hollowed out.
BrushBody shell(const Brush& brush);
/// The closed body of a shell in its own axes; nothing where its walls leave no hollow.
std::optional<FaceMesh> shell_mesh(const Brush& brush);

} // namespace rubble::shapes
