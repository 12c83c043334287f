#pragma once

#include <optional>
#include <set>

#include "level/face_mesh.h"

namespace rubble {

/// A closed body hollowed out, with walls of one thickness, measured square to them; thicker near points
/// where more faces meet than can all keep their distance. Of the faces in `open` nothing is left but the
/// rims of the walls. Nothing where the walls would meet inside. Metres.
std::optional<FaceMesh> shelled(const FaceMesh& solid, double thickness_m, const std::set<int>& open);

} // namespace rubble
