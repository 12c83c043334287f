#pragma once

#include "build/surface.h"
#include "level/dressing/decal.h"

namespace rubble::build {

/// A part of a decal on one face: a convex polygon, counter-clockwise seen from outside, a little before the
/// face.
struct DecalPiece {
    std::vector<Vec3> corners;
    std::vector<Vec2> places; ///< on the picture, of each corner
    Vec3 normal{0, 0, 1};
};

/// What a decal covers of a surface: the faces that look towards where it is thrown from, clipped to its box.
std::vector<DecalPiece> decal_pieces(const Surface& surface, const Decal& decal, const Material& material);

} // namespace rubble::build
