#include "edit/lays.h"

#include <algorithm>
#include <cmath>

#include "level/brush.h"

namespace rubble::edit {

namespace {

/// Without the print: all of the picture is moved alike.
PicturePlace whole_picture(const LaidFace& face, Lay lay) {
    lay.print.clear();
    return picture_place(face.material, lay, face.normal, &face.brush, &face.face);
}

/// Metres that the picture is wide and high on the face.
Vec2 size_of(const PicturePlace& place) {
    return Vec2(1) / glm::max(Vec2(glm::length(place.across), glm::length(place.down)), Vec2(1e-9));
}

/// The lay shifted so that a place of the face shows what it showed under another lay.
Lay kept_at(const LaidFace& face, const Lay& was, Lay now, const Vec3& about) {
    const PicturePlace before = whole_picture(face, was), after = whole_picture(face, now);
    const Vec2 apart = after.of(about) - before.of(about), size = size_of(after);
    now.shift += Vec2(apart.x * size.x, -apart.y * size.y);
    return now;
}

} // namespace

PictureAxes picture_axes(const LaidFace& face, const Lay& lay) {
    const PicturePlace place = whole_picture(face, lay);
    return {glm::normalize(place.across), -glm::normalize(place.down)};
}

Lay moved_by(const LaidFace& face, const Lay& lay, const Vec3& by) {
    const PictureAxes axes = picture_axes(face, lay);
    Lay out = lay;
    out.shift += Vec2(glm::dot(by, axes.right), glm::dot(by, axes.up));
    return out;
}

Lay turned_about(const LaidFace& face, const Lay& lay, const Vec3& about, double deg) {
    Lay out = lay;
    // What is fitted to the face's own size would be sized by turning: it keeps the size that it has.
    if (lay.kind == LayKind::fitted && !lay.metres) out.metres = size_of(whole_picture(face, lay));
    out = kept_at(face, lay, out, about);
    const Lay sized = out;
    out.turn_deg = std::remainder(out.turn_deg + deg, 360.0);
    return kept_at(face, sized, out, about);
}

Lay sized_about(const LaidFace& face, const Lay& lay, const Vec3& about, double factor) {
    constexpr double k_least_m = 0.01, k_most_m = 1000;
    Lay out = lay;
    out.metres = glm::clamp(size_of(whole_picture(face, lay)) * factor, Vec2(k_least_m), Vec2(k_most_m));
    return kept_at(face, lay, out, about);
}

} // namespace rubble::edit
