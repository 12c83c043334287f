#pragma once

#include "core/level_maker.h"
#include "core/random.h"

namespace rubble::test {

/// A floor, twice `half` metres wide, with 20 to 60 boxes and ramps on and above it, a start that is free,
/// and places on the boxes. With `round` half of them are cylinders, cones and balls.
inline Level random_level(Random& random, bool round = false, double half = 9) {
    LevelMaker maker;
    maker.box({0, 0, -1}, {2 * half, 2 * half, 1});
    const int count = random.whole(20, 60);
    for (int i = 0; i < count; ++i) {
        const Vec3 size(random.stepped(0.5, 4, 0.25), random.stepped(0.5, 4, 0.25),
                        random.stepped(0.25, 2.5, 0.25));
        const Vec3 at(random.stepped(-half + 2, half, 0.25), random.stepped(-half, half, 0.25),
                      random.chance(0.6) ? 0 : random.stepped(0, 4, 0.25));
        const double turn = random.chance(0.5) ? 0 : random.stepped(0, 345, 15);
        if (round && random.chance(0.5)) {
            Brush brush;
            brush.shape = random.chance(0.4)   ? Shape::cylinder
                          : random.chance(0.5) ? Shape::cone
                                               : Shape::ball;
            brush.sides = random.whole(least_sides, 24);
            brush.place.at = at;
            brush.place.turn_deg = turn;
            brush.size = size;
            maker.brush(brush);
        } else if (random.chance(0.25))
            maker.ramp(at, size, turn);
        else
            maker.box(at, size, turn);
        maker.element("place", {at.x, at.y, at.z + size.z});
    }
    maker.cut({-half + 1, 0, 0}, {2, 2 * half, 10});
    maker.start({-half + 0.6, 0, 0});
    return maker.level();
}

} // namespace rubble::test
