#include "level/turning.h"

#include <cmath>

#include <glm/gtc/quaternion.hpp>

namespace rubble {

namespace {

glm::dquat quaternion(const Rotation& r) { return {r[3], r[0], r[1], r[2]}; }
Rotation rotation(const glm::dquat& q) { return {q.x, q.y, q.z, q.w}; }

} // namespace

Rotation rotation_of(const Placement& place) {
    if (place.rotation) return *place.rotation;
    return rotation(glm::angleAxis(radians(place.turn_deg), Vec3(0, 0, 1)));
}

Rotation turned_by(const Rotation& then, const Rotation& first) {
    return rotation(quaternion(then) * quaternion(first));
}

std::optional<double> shown_turn_deg(const Placement& place, Frame frame) {
    if (frame != Frame::side) return place.rotation ? std::nullopt : std::optional(place.turn_deg);
    const Vec3 out = along(layout_of(frame).out), right = place.direction({1, 0, 0});
    if (glm::length(place.direction(out) - out) > 1e-9) return {};
    return std::round(degrees(std::atan2(right.z, right.x)) * 1e9) / 1e9;
}

Placement with_shown_turn(Placement place, Frame frame, double deg) {
    place.rotation.reset();
    place.turn_deg = frame == Frame::side ? 0 : deg;
    if (frame == Frame::side && std::remainder(deg, 360.0) != 0)
        place.rotation = rotation(glm::angleAxis(radians(deg), turn_axis(frame)));
    return place;
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
    // What is turned in the plane that a Side level is seen in stays a plain turn of so many degrees there.
    if (std::abs(axis.y) == 1)
        if (const auto shown = shown_turn_deg(place, Frame::side))
            return with_shown_turn(out, Frame::side, std::remainder(*shown - axis.y * deg, 360.0));
    out.rotation = turned_by(rotation(glm::angleAxis(radians(deg), axis)), rotation_of(place));
    out.turn_deg = 0; // is in it
    return out;
}

} // namespace rubble
