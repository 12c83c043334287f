#include "level/dressing/lay.h"

#include <cmath>

#include "base/angle.h"
#include "level/brush.h"
#include "level/dressing/material.h"

namespace rubble {

namespace {

/// To the right and up, as one sees them who stands before a face.
struct Frame2 {
    Vec3 right, up;
};

Frame2 upright_before(const Vec3& normal) {
    constexpr double k_level = 1e-6; // sine of the slope below which a face is a floor or a ceiling
    const Vec3 across = glm::cross(Vec3(0, 0, 1), normal);
    const double length = glm::length(across);
    if (length < k_level) return {{normal.z > 0 ? 1.0 : -1.0, 0, 0}, {0, 1, 0}};
    const Vec3 right = across / length;
    return {right, glm::cross(normal, right)};
}

Frame2 turned(const Frame2& frame, const Lay& lay) {
    const auto [c, s] = cos_sin(lay.turn_deg);
    Frame2 out{frame.right * c + frame.up * s, frame.up * c - frame.right * s};
    if (lay.mirrored) out.right = -out.right;
    return out;
}

/// How far a face reaches to the right and up.
Box2 extent_of(const Brush& brush, const FaceName& face, const Frame2& frame) {
    Box2 out;
    for (const NamedFace& own : named_faces(brush))
        if (own.side.name == face)
            for (const Vec3& p : own.corners) {
                const Vec2 at(glm::dot(frame.right, p), glm::dot(frame.up, p));
                out.low = glm::min(out.low, at), out.high = glm::max(out.high, at);
            }
    return out;
}

/// The part of a picture that a print is.
PicturePlace within_print(PicturePlace place, const Material& material, const std::string& print) {
    const auto region = material.prints.find(print);
    const PictureBytes* picture = material.picture();
    const auto size = picture ? picture_size(picture->bytes) : std::nullopt;
    if (region == material.prints.end() || !size) return place;
    const Vec2 whole(size->first, size->second);
    const Vec2 at = Vec2(region->second.x, region->second.y) / whole,
               part = Vec2(region->second.width, region->second.height) / whole;
    place.across *= part.x, place.down *= part.y;
    place.begin = at + place.begin * part;
    return place;
}

} // namespace

PicturePlace picture_place(const Material& material, const Lay& lay, const Vec3& normal, const Brush* brush,
                           const FaceName* face) {
    const bool own = brush && lay.kind != LayKind::level;
    const auto to_own = [&](const Vec3& way) {
        const Placement& place = brush->place;
        return Vec3(glm::dot(way, place.direction({1, 0, 0})), glm::dot(way, place.direction({0, 1, 0})),
                    glm::dot(way, place.direction({0, 0, 1})));
    };
    const Frame2 frame = turned(upright_before(own ? to_own(normal) : normal), lay);
    Vec2 size = lay.metres.value_or(material.metres), begin = lay.shift;
    if (own && face && lay.kind == LayKind::fitted && !lay.metres) {
        const Box2 extent = extent_of(*brush, *face, frame);
        if (extent.high.x - extent.low.x > 1e-9 && extent.high.y - extent.low.y > 1e-9)
            size = extent.high - extent.low, begin += extent.low;
    }
    // To the right grows what is across; up lessens what is down.
    PicturePlace out{frame.right / size.x, -frame.up / size.y, {-begin.x / size.x, begin.y / size.y}};
    if (lay.kind == LayKind::fitted) out.begin.y += 1; // from its upper edge
    if (own) {
        out.across = brush->place.direction(out.across), out.down = brush->place.direction(out.down);
        out.begin -= Vec2(glm::dot(out.across, brush->place.at), glm::dot(out.down, brush->place.at));
    }
    return lay.print.empty() ? out : within_print(out, material, lay.print);
}

Lay run_on(const Material& material, const Lay& lay, const Brush& brush, const Vec3& normal,
           const Vec3& next_normal, const Vec3& edge_from, const Vec3& edge_to) {
    const Vec3 along = glm::normalize(edge_to - edge_from);
    const PicturePlace here = picture_place(material, lay, normal, &brush);
    Lay out = lay;
    out.kind = LayKind::edge, out.shift = Vec2(0);
    // Along the edge both run alike: the next one is turned as much as its own upright way needs.
    const auto way_of = [&](const PicturePlace& place) {
        const Vec2 size = lay.metres.value_or(material.metres);
        return Vec2(glm::dot(place.across, along) * size.x, glm::dot(place.down, along) * size.y);
    };
    const PicturePlace straight = picture_place(material, out, next_normal, &brush);
    const Vec2 is = way_of(straight), wanted = way_of(here);
    const double turn = std::atan2(cross(is, wanted), glm::dot(is, wanted));
    // What goes down on the picture turns the other way round.
    out.turn_deg += degrees(turn) * (lay.mirrored ? -1 : 1);
    // And at the edge they show one place.
    const Vec2 size = lay.metres.value_or(material.metres);
    const Vec2 apart = picture_place(material, out, next_normal, &brush).of(edge_from) - here.of(edge_from);
    out.shift = Vec2(apart.x * size.x, -apart.y * size.y);
    return out;
}

} // namespace rubble
