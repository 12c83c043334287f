#pragma once

#include "build/surface.h"

namespace rubble::build {

/// All points of a surface, each once, and all its faces by them.
struct NumberedSurface {
    struct Face {
        std::vector<int> loop;
        int brush; ///< an index into the solid's brushes
        const SurfacePart* part;
        const SurfaceFace* face;
    };
    std::vector<geometry::TickPoint> points;
    std::vector<Face> faces;
};

/// It looks into the surface's parts, which must outlive it.
NumberedSurface numbered(const Surface& surface);

/// The connected areas of one plane and one material that faces belong to.
struct Areas {
    std::vector<int> of_face; ///< the number of its area, for each face
    int count = 0;
};
/// Finds the areas that lie in one plane with one look.
Areas areas_of(const NumberedSurface& surface);

} // namespace rubble::build
