#include "level/transform.h"

#include <cmath>

#include "base/overloaded.h"
#include "base/tolerance.h"
#include "level/turning.h"

namespace rubble {

namespace {

Vec3 reflected(Vec3 place, const MirrorPlane& plane) {
    place[plane.axis] = 2 * plane.at_m - place[plane.axis];
    return place;
}

Placement reflected(const Placement& place, const MirrorPlane& plane) {
    Placement out = place;
    out.at = reflected(place.at, plane);
    if (!place.rotation) {
        out.turn_deg = std::remainder(plane.axis == 0 ? 180 - place.turn_deg : -place.turn_deg, 360.0);
        return out;
    }
    const auto seen = [&](const Vec3& own) {
        Vec3 way = place.direction(own);
        way[plane.axis] = -way[plane.axis];
        return way;
    };
    out.rotation = rotation_onto(seen({1, 0, 0}), -seen({0, 1, 0}), seen({0, 0, 1}));
    out.turn_deg = 0; // is in it
    return out;
}

} // namespace

double Transform::factor() const {
    const Scale* scale = std::get_if<Scale>(&how_);
    return scale ? scale->factor : 1;
}

Placement Transform::applied_to(const Placement& place) const {
    Placement out = place;
    std::visit(
        overloaded{
            [&](const Move& move) { out.at += move.by; },
            [&](const Turn& turn) { out = turned_about(place, turn.about, turn.axis, turn.deg); },
            [&](const MirrorPlane& plane) { out = reflected(place, plane); },
            [&](const Scale& scale) { out.at = scale.about + (place.at - scale.about) * scale.factor; },
        },
        how_);
    return out;
}

Vec3 Transform::applied_to(const Vec3& place) const { return applied_to(Placement{place, 0, {}}).at; }

double Transform::heading_deg(const Vec3& place, double deg) const {
    const Placement then = applied_to(Placement{place, deg, {}});
    if (!then.rotation) return then.turn_deg;
    const Vec3 ahead = then.direction({1, 0, 0});
    return glm::length(flat(ahead)) > tolerance::upright ? degrees(std::atan2(ahead.y, ahead.x)) : deg;
}

} // namespace rubble
