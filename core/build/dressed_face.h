#pragma once

#include "build/surface.h"
#include "level/brush.h"
#include "level/dressing/lay.h"
#include "level/level.h"

namespace rubble::build {

/// How the picture of a face's material lies on it, for drawing and for export alike. `brush` is the one
/// whose face it is.
inline PicturePlace picture_place_of(const Material& material, const Brush& brush, const SurfaceFace& face) {
    const auto look = brush.looks.find(face.side.name);
    // What a cut lays bare looks like what it was cut into.
    const bool own = look != brush.looks.end() && look->second.material == face.material;
    Lay lay = own ? look->second.lay : Lay{};
    if (!own && material.kind == MaterialKind::prints) lay.kind = LayKind::fitted;
    return picture_place(material, lay, face.normal, &brush, &face.side.name);
}

} // namespace rubble::build
