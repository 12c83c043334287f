#pragma once

#include <span>
#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// A line of a drawing that is laid on the ground: corners in metres.
struct PlanLine {
    std::string name;
    std::vector<Vec2> points;
    bool closed = false;
    int shape = 0; ///< lines of one shape belong together: one within another is a hole in it
};

/// What lines become. Open ones are always walls.
struct TracedAs {
    bool walls = false; ///< closed lines too; else they are outlines
    double height_m = 3, thickness_m = 0.25;
    Vec3 at{0}; ///< where the drawing's origin comes to lie
};

struct Traced {
    std::vector<Item> items; ///< with ids that are free in the level
    int left_out = 0;        ///< lines that no brush can be made of: without extent, or crossing themselves
};
/// Brushes along lines. Points that lie between their neighbours within a millimetre are dropped, and more
/// where a brush could not hold them all.
Traced traced(const Level& level, std::span<const PlanLine> lines, const TracedAs& as);

} // namespace rubble::edit
