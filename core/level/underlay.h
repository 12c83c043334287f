#pragma once

#include <array>
#include <string>

#include "level/item.h"

namespace rubble {

/// A picture, such as a sketch or a plan, that is laid under the level to be built over. It is never
/// exported.
struct Underlay {
    UnderlayId id;
    std::string file; ///< beside the level's own file, or with its whole path
    Vec3 at{0};       ///< its middle
    int axis =
        2; ///< across which it lies: 2 flat as a plan, 1 upright as seen from the front, 0 from the right
    double width_m = 10; ///< its height follows from the picture
    double opacity = 0.5;
    bool hidden = false;
    bool locked = false; ///< it is not moved or scaled by the pointer
    Extra extra;
    bool operator==(const Underlay&) const = default;
};

inline constexpr double narrowest_underlay_m = 0.01, widest_underlay_m = 10'000;

/// The directions of the level along which a picture's width and height run.
inline std::array<Vec3, 2> axes_of(const Underlay& underlay) {
    const Vec3 x(1, 0, 0), y(0, 1, 0), z(0, 0, 1);
    if (underlay.axis == 2) return {x, y};
    return underlay.axis == 1 ? std::array{x, z} : std::array{y, z};
}

} // namespace rubble
