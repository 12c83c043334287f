#pragma once

#include <array>
#include <string>
#include <vector>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

/// The body of a brush: corners in whole ticks and faces as loops of corner indices, counter-clockwise seen
/// from outside. Faces are exactly planar: a turned or tipped box is a parallelepiped of rounded edges.
struct BrushBody {
    struct Face {
        std::vector<int> loop;
        BoxSide side;
    };
    std::vector<geometry::TickPoint> points;
    std::vector<Face> faces;
};

BrushBody body_of(const Brush& brush);
/// Its corners in metres.
std::vector<Vec3> corners_of(const Brush& brush);

/// What makes a brush unusable ("size", "at", "rotation"), empty when it can be built: sizes from one
/// hundredth of a millimetre to geometry::longest_edge_m, places within geometry::farthest_m.
std::string problem_of(const Brush& brush);

const char* side_key(BoxSide side);

} // namespace rubble
