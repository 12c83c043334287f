#pragma once

#include <vector>

#include <boost/container/small_vector.hpp>

#include "geometry/convex_cell.h"
#include "geometry/exact.h"
#include "level/brush_shape.h"

namespace rubble::build {

/// A convex polygon in a plane of the table. Every corner starts an edge that lies in another plane; the
/// corner is where that plane, the one of the edge before, and the supporting plane meet.
struct Polygon {
    struct Edge {
        int32_t plane;
        geometry::Corner start;
    };
    geometry::PlaneRef support; ///< counter-clockwise seen from its outside
    boost::container::small_vector<Edge, 6> edges;
};

/// A brush made ready for building: its body with every face in exact planes.
struct PreparedBrush {
    struct Face {
        Polygon polygon;
        BoxSide side;
    };
    Effect effect = Effect::fill;
    std::vector<Face> faces;
    geometry::ConvexCell cell;
    Box3 box; ///< metres
};

PreparedBrush prepare(const Brush& brush, geometry::PlaneTable& planes);

/// A box in metres around a polygon, larger than it by what is not known of its corners.
Box3 box_of(const Polygon& polygon);

} // namespace rubble::build
