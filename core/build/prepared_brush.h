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
        bool operator==(const Edge& other) const {
            return plane == other.plane && start.planes == other.start.planes;
        }
    };
    geometry::PlaneRef support; ///< counter-clockwise seen from its outside
    boost::container::small_vector<Edge, 6> edges;
    bool operator==(const Polygon&) const = default;
};

/// A box in metres around a polygon, larger than it by what is not known of its corners.
Box3 box_of(const Polygon& polygon);

/// A convex part of a brush with every face in exact planes.
struct PreparedCell {
    struct Face {
        Polygon polygon;
        BoxSide side;
        Box3 box; ///< of the polygon
    };
    std::vector<Face> faces;
    geometry::ConvexCell cell;
    Box3 box; ///< metres
};

/// A brush made ready for building. Its cells act one after the other, like brushes of one effect: where two
/// of them meet, the rules for faces in one plane leave nothing between them.
struct PreparedBrush {
    Effect effect = Effect::fill;
    std::vector<PreparedCell> cells;
    Box3 box;
};

/// The planes of a body's faces, in the order of its cells and their faces.
using BodyPlanes = std::vector<geometry::PlaneRef>;
BodyPlanes planes_of(const BrushBody& body, geometry::PlaneTable& planes);

PreparedBrush prepare(Effect effect, const BrushBody& body, const BodyPlanes& refs,
                      const geometry::PlaneTable& planes);

} // namespace rubble::build
