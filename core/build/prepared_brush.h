#pragma once

#include <memory>

#include <vector>

#include "build/polygon.h"
#include "geometry/convex_cell.h"
#include "level/brush_shape.h"

namespace rubble::build {

/// A convex part of a brush with every face in exact planes.
struct PreparedCell {
    struct Face {
        Polygon polygon;
        NamedSide side;
        Box3 box;                                   ///< of the polygon
        std::shared_ptr<const MaterialId> material; ///< of the face where it is not its brush's; else null
    };
    std::vector<Face> faces;
    std::shared_ptr<const geometry::ConvexCell> cell;
    Box3 box; ///< metres
};

/// A brush made ready for building. Its cells act one after the other, like brushes of one effect: where two
/// of them meet, the rules for faces in one plane leave nothing between them.
struct PreparedBrush {
    Effect effect = Effect::fill;
    std::vector<PreparedCell> cells;
    Box3 box;
};

/// The planes of a body's faces, in the order of its cells and their faces; those of one that is cut up here
/// in the order of its bounds.
std::vector<geometry::CanonicalPlane> planes_of(const BrushBody& body);

/// The same in a table; with six more around a body that is cut up here.
using BodyPlanes = std::vector<geometry::PlaneRef>;
/// Puts planes into the table.
BodyPlanes added(const std::vector<geometry::CanonicalPlane>& found, const BrushBody& body,
                 geometry::PlaneTable& planes);

/// Makes a body's cells ready, given the planes of their faces as `added` gives them.
PreparedBrush prepare(Effect effect, const BrushBody& body, const BodyPlanes& refs,
                      const geometry::PlaneTable& planes);

/// What is left of a brush when a cut takes away from it alone.
PreparedBrush less(PreparedBrush brush, const PreparedBrush& cut, const Brush& cutter,
                   const geometry::PlaneTable& planes);

} // namespace rubble::build
