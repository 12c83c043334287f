#include <algorithm>

#include "base/tolerance.h"
#include "motion/elements.h"

namespace rubble::motion {

namespace {

/// How closely walls and edges are felt for, how far a foe goes at most, and how much of a step it takes
/// (metres).
constexpr double k_feel_m = 0.05, k_farthest_m = 200, k_step_m = 0.2;

/// How far it can go in a direction, the ground level within a step.
double free_way_m(const World& world, const PlayElements::Foe& foe, const Vec2& direction) {
    const double radius = std::min(foe.room.size.x, foe.room.size.y) / 2;
    const Vec3& from = foe.room.place.at;
    double free = 0;
    for (double way = k_feel_m; way <= k_farthest_m; way += k_feel_m) {
        const Body body{from + raised(direction * way, tolerance::limit_m), radius - k_feel_m / 2,
                        foe.room.size.z - k_feel_m};
        if (overlap_m(world, body) > tolerance::limit_m) break;
        const Body feet{from + raised(direction * way, 0), radius / 4, 0};
        if (!support_below(world, feet, tolerance::limit_m, k_step_m)) break;
        free = way;
    }
    return free;
}

} // namespace

Course turning_course(const World& world, const PlayElements::Foe& foe) {
    const Vec2 ahead = flat(foe.room.place.direction({1, 0, 0}));
    const Vec3& from = foe.room.place.at;
    const Vec3 far = from + raised(ahead * free_way_m(world, foe, ahead), 0),
               back = from - raised(ahead * free_way_m(world, foe, -ahead), 0);
    return Course({from, far, back}, foe.speed_mps, 0, false);
}

} // namespace rubble::motion
