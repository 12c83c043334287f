#pragma once

#include <optional>

#include "level/brush.h"
#include "level/face_mesh.h"

namespace rubble::edit {

/// Any brush as a body of the same matter in the same place, to be reshaped; nothing for one that cannot be:
/// its surface touches itself.
std::optional<Brush> as_body(const Brush& brush);

/// A body's points, in its own axes about `at`, and faces; and the body with others.
FaceMesh mesh_of(const Brush& body);
/// The same with another mesh; faces keep their names and looks as far as they are the same.
Brush with_mesh(Brush body, FaceMesh mesh);

} // namespace rubble::edit
