#pragma once

#include <vector>

#include "level/level.h"

namespace rubble {

/// How far something is from the next fill along one axis, between places in the middle of what both share.
struct Neighbour {
    ItemId item;
    int axis = 0; ///< 0 x, 1 y, 2 z
    int way = 1;  ///< towards its high (1) or low (-1) end
    double gap_m = 0;
    Vec3 from{0}, to{0};
};

/// The nearest fills beside, above and below a box, each way one at the most and within a distance. What
/// touches it or stands in it is none; `moving` are left out.
std::vector<Neighbour> neighbours_of(const Level& level, const std::vector<ItemId>& moving, const Box3& box,
                                     double within_m);

/// A side of a box that lies in one plane with a side of another item's box.
struct EqualEdge {
    ItemId item;
    int axis = 0;
    double at_m = 0;
    Box3 other;
};

/// Those of the items nearest to the box, one for each of its six sides at the most.
std::vector<EqualEdge> equal_edges(const Level& level, const std::vector<ItemId>& moving, const Box3& box,
                                   double within_m);

} // namespace rubble
