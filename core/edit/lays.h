#pragma once

#include "level/dressing/lay.h"
#include "level/dressing/material.h"

namespace rubble::edit {

/// A face as its picture is moved on it by hand: which way it looks, and whose it is.
struct LaidFace {
    const Material& material;
    const Brush& brush;
    const FaceName& face;
    Vec3 normal; ///< outward, of unit length, in the level
};

/// To the right and up of the picture on a face, of unit length, in the level.
struct PictureAxes {
    Vec3 right, up;
};
PictureAxes picture_axes(const LaidFace& face, const Lay& lay);

/// The lay with which the picture lies farther by so much of the face (metres in the level).
Lay moved_by(const LaidFace& face, const Lay& lay, const Vec3& by);
/// Turned counter-clockwise, as one sees it who stands before the face, about a place of it.
Lay turned_about(const LaidFace& face, const Lay& lay, const Vec3& about, double deg);
/// So many times as large, with a place of the face where it was.
Lay sized_about(const LaidFace& face, const Lay& lay, const Vec3& about, double factor);

} // namespace rubble::edit
