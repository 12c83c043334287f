#pragma once

#include <optional>
#include <vector>

#include "check/ground.h"
#include "motion/recording.h"

namespace rubble::check {

/// A way over one ledge as a line of straight pieces, each inside the walkable area.
struct Path {
    struct Point {
        Vec2 at{0};
        bool low = false; ///< the piece that ends here is only walked crouched
    };
    std::vector<Point> points; ///< the first one is the beginning
    double length_m = 0;
};

/// A short way from one place to another of the same ledge: A* over the fragments through the middles of
/// their portals, then straightened where the straight line stays inside. Nothing where there is none.
std::optional<Path> find_path(const Ground& ground, int from_fragment, Vec2 from, int to_fragment, Vec2 to);

/// How far one can walk straight from `from` by `by` inside the ledge, as a part of `by`, 0 to 1. With
/// `upright_only` low fragments end it.
double straight_part(const Ground& ground, int fragment, Vec2 from, Vec2 by, bool upright_only);

/// Walks along a path and comes to rest at its end, to a ten-thousandth of a millimetre. False where that
/// fails.
bool walk_path(motion::Recorder& recorder, const Character& character, const Path& path);

/// Comes to rest where it stands; false where that takes longer than `most_steps`.
bool brake(motion::Recorder& recorder, int most_steps = 240);

} // namespace rubble::check
