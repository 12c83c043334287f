#pragma once

#include "build/surface.h"

namespace rubble::build {

/// A face of the solid as people see it: a connected area of one plane and one material, from whatever
/// brushes its pieces come.
struct WholeFace {
    /// Rings around it, each once: outer ones counter-clockwise seen from outside, those of holes clockwise.
    /// Corners may lie on straight edges, where another face has one.
    std::vector<std::vector<geometry::TickPoint>> rings;
    Vec3 normal{0, 0, 1};
    int32_t plane = -1; ///< of the solid's planes
    MaterialId material;
    std::vector<int> brushes; ///< indices into the solid's, each once
    double area_m2 = 0;
    double around_m = 0; ///< the length of all rings

    /// Of a strip how wide it is, however long and wherever it turns; of a square half its edge.
    double width_m() const { return around_m > 0 ? 2 * area_m2 / around_m : 0; }
    /// Of all its corners, in metres.
    Box3 box() const;
};

/// The faces of a closed surface, joined into whole polygons: exactly one for each such area.
std::vector<WholeFace> whole_faces_of(const Surface& surface);

} // namespace rubble::build
