#pragma once

#include "build/solid.h"
#include "level/level.h"

namespace rubble::check {

/// Two brushes that miss each other, or overlap, by a hair: nobody meant it.
struct Sliver {
    enum class Kind {
        face, ///< a face so narrow, as between two tops of almost one height
        gap,  ///< air between two faces
        wall, ///< matter between two faces
    };
    Kind kind;
    int brush;       ///< an index into the solid's: the one whose face it is
    int beside = -1; ///< the other one
    double width_m;
    Vec3 at;
};

/// What is narrower than this is a sliver, unless its brush is as thin by itself.
inline constexpr double sliver_m = 0.01;

/// The slivers of a level, at most one of a kind for each pair of brushes. `solid` is that of the level.
std::vector<Sliver> slivers_of(const Level& level, const build::Solid& solid);

} // namespace rubble::check
