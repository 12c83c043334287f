#pragma once

#include <string>
#include <vector>

#include "level/level.h"
#include "motion/world.h"

namespace rubble::parcel {

/// A level drawn to scale: one storey from above, or a Side level from the front. In metres, to the right
/// and up the sheet.
struct Plan {
    struct Area {
        std::vector<Vec2> corners;
        double height_m = 0; ///< of what is looked down on
    };
    struct Mark {
        Vec2 at{0};
        std::string kind, text;
    };
    struct Line {
        Vec2 from{0}, to{0};
        std::string text; ///< of a dimension
    };
    std::string name, title;
    Box2 box;                 ///< around all of it
    std::vector<Area> floors; ///< looked down on, the lowest first
    std::vector<Area> cut;    ///< where matter is cut through
    std::vector<Mark> marks;  ///< elements
    std::vector<Line> dimensions;
    double low_m = 0, high_m = 0; ///< of the floors
};

/// A plan for each storey, cut a little over its floor, or one where no layer is a storey; of a Side level
/// one from the front. `world` is the level's.
std::vector<Plan> plans_of(const Level& level, const motion::World& world);

} // namespace rubble::parcel
