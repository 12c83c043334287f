#pragma once

#include <span>

#include "base/flat_index.h"
#include "build/seams.h"
#include "build/surface.h"

namespace rubble::build {

/// A part of the solid with the seams of its pieces.
struct SeamedPart {
    const SolidPart* part;
    const Seams* seams;
};

/// The faces of a part with all corners put into their edges that its own other faces or those of the
/// neighbours have there. All parts that touch it must be among `neighbours`.
SurfacePart closed(const SeamedPart& own, std::span<const SeamedPart> neighbours,
                   const geometry::PlaneTable& planes);

} // namespace rubble::build
