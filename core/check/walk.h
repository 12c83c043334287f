#pragma once

#include <optional>
#include <set>
#include <utility>
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
    std::vector<Point> points;  ///< the first one is the beginning
    std::vector<int> fragments; ///< the fragments it leads through
    double length_m = 0;
};

/// Ways from one fragment into another that turned out not to be walked.
using ClosedWays = std::set<std::pair<int, int>>;

/// A short way from one place to another of the same ledge: A* over the fragments through the middles of
/// their portals, wide ones first, then straightened where the straight line stays inside. Nothing where
/// there is none without the closed ways.
std::optional<Path> find_path(const Ground& ground, int from_fragment, Vec2 from, int to_fragment, Vec2 to,
                              const ClosedWays& closed = {});

/// How far one can walk straight from `from` by `by` inside the ledge, as a part of `by`, 0 to 1. With
/// `upright_only` low fragments end it.
double straight_part(const Ground& ground, int fragment, Vec2 from, Vec2 by, bool upright_only);

/// Walks along a path and comes to rest at its end, to a ten-thousandth of a millimetre; where running
/// through the corners fails, it stops at each. False where that fails too.
bool walk_path(motion::Recorder& recorder, const Character& character, const Path& path);

/// Walks from where it stands to a place of the same ledge; where a way proves closed it takes another.
bool walk_to(motion::Recorder& recorder, const Ground& ground, const Character& character, int fragment,
             Vec2 to);

/// Comes to rest where it stands; false where that takes longer than `most_steps`.
bool brake(motion::Recorder& recorder, int most_steps = 240);

} // namespace rubble::check
