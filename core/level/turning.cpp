#include "level/turning.h"

#include <cmath>

namespace rubble {

Rotation rotation_of(const Placement& place) {
    if (place.rotation) return *place.rotation;
    const double half = radians(place.turn_deg) / 2;
    return {0, 0, std::sin(half), std::cos(half)};
}

Rotation turned_by(const Rotation& then, const Rotation& first) {
    const auto& [ax, ay, az, aw] = then;
    const auto& [bx, by, bz, bw] = first;
    return {aw * bx + ax * bw + ay * bz - az * by, aw * by - ax * bz + ay * bw + az * bx,
            aw * bz + ax * by - ay * bx + az * bw, aw * bw - ax * bx - ay * by - az * bz};
}

Placement turned_about(const Placement& place, const Vec3& about, const Vec3& axis, double deg) {
    // Rodrigues' formula: what lies along the axis stays, the rest goes round it.
    const auto [c, s] = cos_sin(deg);
    const Vec3 d = place.at - about, along = axis * glm::dot(d, axis);
    Placement out = place;
    out.at = about + along + (d - along) * c + glm::cross(axis, d) * s;
    const bool upright = std::abs(axis.x) + std::abs(axis.y) < 1e-12;
    if (upright && !place.rotation) {
        out.turn_deg = std::remainder(place.turn_deg + (axis.z > 0 ? deg : -deg), 360.0);
        return out;
    }
    const double sin_half = std::sin(radians(deg) / 2), cos_half = std::cos(radians(deg) / 2);
    out.rotation =
        turned_by({axis.x * sin_half, axis.y * sin_half, axis.z * sin_half, cos_half}, rotation_of(place));
    return out;
}

} // namespace rubble
