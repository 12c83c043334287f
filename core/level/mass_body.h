#pragma once

#include "level/face_mesh.h"
#include "level/mass.h"

namespace rubble::shapes {

/// A convex part of a mass, in the mass's own axes; without faces where nothing is left of it.
FaceMesh mass_part(const MassPart& part, double cell_m);

} // namespace rubble::shapes
