#pragma once

#include <boost/container/small_vector.hpp>

#include "geometry/exact.h"

namespace rubble::build {

/// A convex polygon in a plane of the table. Every corner starts an edge that lies in another plane; the
/// corner is where that plane, the one of the edge before, and the supporting plane meet.
struct Polygon {
    struct Edge {
        [[no_unique_address]] geometry::Corner start; // the plane lies in its last bytes
        int32_t plane;
        bool operator==(const Edge& other) const {
            return plane == other.plane && start.planes == other.start.planes;
        }
    };
    geometry::PlaneRef support; ///< counter-clockwise seen from its outside
    boost::container::small_vector<Edge, 4> edges;
    bool operator==(const Polygon&) const = default;
};

/// A box in metres around a polygon, larger than it by what is not known of its corners.
Box3 box_of(const Polygon& polygon);

/// On which side of a plane each corner of a polygon lies.
struct CornerSides {
    boost::container::small_vector<geometry::Side, 8> of;
    bool front = false, back = false; ///< whether any lies there
};
/// On which side of a plane each corner lies.
CornerSides sides_of(const Polygon& polygon, geometry::PlaneRef plane, const geometry::PlaneTable& planes);

/// The two parts of a polygon on either side of a plane that crosses it.
struct Halves {
    Polygon front, back;
};
/// The parts of a polygon on either side of a plane that crosses it.
Halves split(const Polygon& polygon, const CornerSides& sides, geometry::PlaneRef by,
             const geometry::PlaneTable& planes);

} // namespace rubble::build
