#pragma once

#include <vector>

#include "base/id.h"
#include "level/character.h"
#include "level/placement.h"
#include "motion/play_kinds.h"

namespace rubble::motion {

/// An upright box, turned about z.
struct Room {
    Placement place; ///< of the middle of its bottom
    Vec3 size{0};

    /// Whether a place stands in it: within its plan, and no further from its heights than `near_m`.
    bool holds(const Vec3& at, double near_m) const;
};

/// Rungs that are climbed: towards them up, away from them down, without either one holds on.
struct Ladder {
    ItemId id;
    Vec3 foot{0};
    Vec2 front{1, 0}; ///< towards whoever climbs it
    double height_m = 0;
    bool behind = false; ///< of a Side level, behind the figure: up and down by the stick's other axis

    double top() const { return foot.z + height_m; }
    /// Whether a body of a radius at a place can hold on to it.
    bool holds(const Vec3& at, double radius_m) const;
    /// What the stick asks for: up (1), down (-1) or nothing.
    int wish(Vec2 stick) const;
};

/// Ground that acts on whoever walks there.
struct ActingFloor {
    Room room;
    FloorAct acts = FloorAct::slippery;
    Vec2 carries{0}; ///< metres per second
};

/// Who stands in it is thrown.
struct Launcher {
    ItemId id;
    Room room;
    Vec3 velocity{0};
};

/// What in a level acts on a body wherever it is, and never changes.
struct Fixtures {
    std::vector<Ladder> ladders;
    std::vector<ActingFloor> floors;
    std::vector<Launcher> launchers;

    bool empty() const { return ladders.empty() && floors.empty() && launchers.empty(); }
    /// The first one at a place; null where none is. @{
    const Ladder* ladder_at(const Vec3& at, double radius_m) const;
    const ActingFloor* floor_at(const Vec3& feet) const;
    const Launcher* launcher_at(const Vec3& feet) const;
    /// @}
};

/// How much of its acceleration a figure has on slippery ground.
inline constexpr double slippery_part = 0.1;

} // namespace rubble::motion
