#pragma once

#include <vector>

#include "level/level.h"

namespace rubble {

/// A picture that is laid over whatever is before it, as if thrown there; nobody meets it.
struct Decal {
    ItemId item;
    MaterialId material;
    std::string print; ///< of a material of prints; empty: the whole picture
    Vec3 at{0};        ///< its middle
    Vec3 way{0, 0, -1}, right{1, 0, 0}, up{0, 1, 0};
    double width_m = 1, height_m = 1;
    double depth_m = 0.5; ///< how far before and behind its middle it is seen
};

/// The decals of a level that are to be seen, those that lie below others first.
std::vector<Decal> decals_of(const Level& level);

} // namespace rubble
