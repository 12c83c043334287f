#pragma once

#include <unordered_map>

#include "build/surface.h"
#include "geometry/space_grid.h"

namespace rubble::build {

/// Closes the surfaces of solids built one after the other: every corner that lies on an edge of another face
/// is put into that edge, so that no edge ends in the middle of another. Only parts of which something along
/// a line changed are closed anew, and their neighbours along that line.
class SurfaceBuilder {
public:
    SurfaceBuilder();
    ~SurfaceBuilder();
    SurfaceBuilder(SurfaceBuilder&&) noexcept;

    /// The surface of a solid, with what the last build made taken over.
    Surface build(const Solid& solid);

private:
    struct Part;
    struct Change;
    Change change_to(const Solid& solid);
    std::vector<Part*> stale_parts(const Change& change);

    std::unordered_map<const SolidPart*, std::unique_ptr<Part>> parts_;
    geometry::SpaceGrid<Part*> grid_;
    Solid solid_;
    Surface surface_;
};

/// One surface from nothing.
Surface surface_of(const Solid& solid);

} // namespace rubble::build
