#pragma once

#include <compare>
#include <optional>
#include <string>
#include <vector>

#include "base/id.h"
#include "geometry/vec.h"

namespace rubble {

struct Brush;
struct FaceName;
struct Material;

/// What a picture on a face goes along with: the level, so that it runs on over all faces in one plane and
/// stays where it is when the brush is moved; the brush; an edge that it runs on round from another face; or
/// the face itself, which it fills.
enum class LayKind { level, brush, edge, fitted };

/// How a picture lies on a face. Seen from before the face; turns and shifts are those of the picture.
struct Lay {
    LayKind kind = LayKind::level;
    std::optional<Vec2> metres; ///< of a repeat, or of what is fitted; none: the material's, the face's
    double turn_deg = 0;        ///< counter-clockwise
    Vec2 shift{0};              ///< metres to the right and up, after the turn
    bool mirrored = false;
    std::string print; ///< of a material of prints; empty: the whole picture
    bool operator==(const Lay&) const = default;
};

/// What a face looks like.
struct Look {
    MaterialId material;
    Lay lay = {};
    bool operator==(const Look&) const = default;
};

/// The place on a picture that a place of the level shows, from its upper left corner; 1 is its whole width
/// or height.
struct PicturePlace {
    Vec3 across{0}, down{0};
    Vec2 begin{0};
    Vec2 of(const Vec3& p) const { return {glm::dot(across, p) + begin.x, glm::dot(down, p) + begin.y}; }
};

/// How a material's picture comes to lie on a face that looks along `normal` (outward, of unit length).
/// `brush` and `face` say whose it is; without them it follows the level. Walls have their pictures upright,
/// floors and ceilings along the axes.
PicturePlace picture_place(const Material& material, const Lay& lay, const Vec3& normal,
                           const Brush* brush = nullptr, const FaceName* face = nullptr);

/// The lay with which a picture that lies in some way on one face runs on round an edge onto another face of
/// the same brush; `edge` is a place on the edge, in the level. Both normals are those of the level.
Lay run_on(const Material& material, const Lay& lay, const Brush& brush, const Vec3& normal,
           const Vec3& next_normal, const Vec3& edge_from, const Vec3& edge_to);

} // namespace rubble
