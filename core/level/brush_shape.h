#pragma once

#include <array>
#include <string>
#include <vector>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

/// The body of a brush: corners in whole ticks and faces as loops of corner indices, counter-clockwise seen
/// from outside. A turned or tipped box or ramp is one of rounded edges, so its faces are exactly planar. A
/// face of another tipped shape is the plane through three of its corners; the others lie within a tick of
/// it.
struct BrushBody {
    struct Face {
        std::vector<int> loop;
        NamedSide side;
        int plane = -1; ///< one of the body's planes; -1: through three corners of its own
    };
    std::vector<geometry::TickPoint> points;
    std::vector<Face> faces; ///< as they are seen from outside; convex only where the body is
    /// Convex bodies that make up the matter, by their faces; empty where the faces themselves make one.
    /// Two that meet do so in faces of one plane.
    std::vector<std::vector<Face>> cells;
    std::vector<geometry::Plane> planes; ///< that several faces share exactly
    /// Of a body that is not convex and has no cells yet: convex polygons that bound it, by which it is cut
    /// up. They lie in their planes but for the rounding of a turned brush's corners.
    std::vector<Face> bounds;
};

/// The body that a brush fills, in the level.
BrushBody body_of(const Brush& brush);
/// The box that a brush fills in its own axes, about `at`. Found from the points where the shape has some.
Box3 own_box(const Brush& brush);
/// The same brush with `size` as its points say; others unchanged.
Brush measured(Brush brush);
/// Its corners in metres.
std::vector<Vec3> corners_of(const Brush& brush);

/// The name of a body's face; of a brush of points and faces.
FaceName body_face_name(const Brush& brush, int face);

/// What makes a brush unusable ("size", "at", "rotation", "sides"), empty when it can be built: sizes from
/// one hundredth of a millimetre (a centimetre across a round shape) to geometry::longest_edge_m, places
/// within geometry::farthest_m.
std::string problem_of(const Brush& brush);

} // namespace rubble
