#pragma once

#include <optional>
#include <set>
#include <vector>

#include "level/face_mesh.h"

namespace rubble {

/// A face of a hollowed body: which face of the solid one it is, looks back at from within, or is the rim of.
struct ShellFace {
    int of = 0;
    bool inner = false;
};

struct Shelled {
    FaceMesh mesh;
    std::vector<ShellFace> faces; ///< for each of the mesh's
};

/// A closed body hollowed out, with walls of one thickness, measured square to them; thicker near points
/// where more faces meet than can all keep their distance. Of the faces in `open` nothing is left but the
/// rims of the walls. Nothing where the walls would meet inside. Metres.
std::optional<Shelled> shelled(const FaceMesh& solid, double thickness_m, const std::set<int>& open);

} // namespace rubble
