#pragma once

#include <span>
#include <vector>

#include "build/prepared_brush.h"

namespace rubble::build {

/// A brush that touches the one whose face is clipped.
struct Touching {
    const PreparedCell* cell;
    Effect effect;
    bool later; ///< in the order of brushes
};

/// Whether some part of a polygon may lie in a cell, or on a face of it in the same plane. Boxes are the
/// caller's business.
bool may_hold(const PreparedCell& cell, const Polygon& polygon, const geometry::PlaneTable& planes);

/// The parts of a face of a brush, or of a piece of it, that bound the solid. `others` are the touching
/// brushes: the later ones in order, then the earlier ones, last first.
std::vector<Polygon> clipped_face(const Polygon& polygon, Effect effect, std::span<const Touching> others,
                                  const geometry::PlaneTable& planes);

/// A polygon cut along parallel planes, `cuts` in the order of their places along the axis: the pieces with
/// the numbers of the strips they lie in.
struct Strip {
    Polygon polygon;
    size_t number;
};
/// The strips of a polygon between planes that cross it.
std::vector<Strip> strips_of(const Polygon& polygon, std::span<const int32_t> cuts,
                             const geometry::PlaneTable& planes);

} // namespace rubble::build
