#pragma once

#include <span>
#include <vector>

#include "geometry/exact.h"

namespace rubble::build {

struct Fragment;

/// The edges of a brush's fragments, by the corners at which they end and the lines that carry them. Faces
/// that meet in a line are cut at the same corners of it, whichever planes name the line for them; so the
/// faces of all brushes can be put together from their seams without looking at a plane again.
struct Seams {
    struct Use {
        int corner; ///< at which the edge starts
        int line;
    };
    std::vector<geometry::Corner> corners;   ///< each once
    std::vector<geometry::TickPoint> places; ///< of the corners, rounded
    std::vector<geometry::LineName> lines;   ///< each once
    std::vector<std::vector<int>> line_ends; ///< for each line the corners at which edges on it end
    std::vector<Use> uses;                   ///< of all edges of all fragments, in order
};

Seams seams_of(std::span<const Fragment> fragments, const geometry::PlaneTable& planes);

/// Hashes for looking places and lines up.
uint64_t hash_of(const geometry::TickPoint& place);
uint64_t hash_of(const geometry::LineName& name);

} // namespace rubble::build
