#pragma once

#include <array>
#include <optional>

#include "base/angle.h"
#include "geometry/vec.h"

namespace rubble {

/// A turn in space, [x, y, z, w], of unit length.
using Rotation = std::array<double, 4>;

/// The turn that puts the own axes onto three directions of unit length at right angles, a right hand
/// (Shepperd, "Quaternion from rotation matrix", 1978, by its largest part).
Rotation rotation_onto(const Vec3& x, const Vec3& y, const Vec3& z);

/// Where an item stands and how it is turned about that place: about z by `turn_deg`, counter-clockwise
/// seen from above, or freely by `rotation`, which then counts instead.
struct Placement {
    Vec3 at{0};
    double turn_deg = 0;
    std::optional<Rotation> rotation;

    /// A direction of the item's own axes in the level's.
    Vec3 direction(const Vec3& own) const {
        if (!rotation) {
            const auto [c, s] = cos_sin(turn_deg);
            return {own.x * c - own.y * s, own.x * s + own.y * c, own.z};
        }
        const Vec3 q((*rotation)[0], (*rotation)[1], (*rotation)[2]);
        const Vec3 t = glm::cross(q, own) * 2.0;
        return own + t * (*rotation)[3] + glm::cross(q, t);
    }
    /// A place in own axes in the level.
    Vec3 to_level(const Vec3& own) const { return at + direction(own); }
    /// A place of the level in own axes.
    Vec3 to_own(const Vec3& at_level) const {
        const Vec3 d = at_level - at;
        return {glm::dot(d, direction({1, 0, 0})), glm::dot(d, direction({0, 1, 0})),
                glm::dot(d, direction({0, 0, 1}))};
    }
    bool operator==(const Placement&) const = default;
};

/// A place on a surface, and which way that looks there.
struct SurfacePlace {
    Vec3 at{0};
    Vec3 normal{0, 0, 1}; ///< of unit length
};

} // namespace rubble
