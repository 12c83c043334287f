#pragma once

#include <compare>
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/id.h"
#include "geometry/vec.h"
#include "level/dressing/lay.h"

namespace rubble {

struct Brush;
struct BrushBody;

/// The six sides of a brush's base box in its own axes; a ramp's slope counts as its top, and any other face
/// as the side it looks to most.
enum class BoxSide { left, right, near, away, bottom, top }; // -x +x -y +y -z +z
inline constexpr int box_sides = 6;

/// In files and sentences ("left").
const char* side_key(BoxSide side);

/// What a face is in the structure of its shape; `side` is one of several around it, `face` one of a body.
enum class FacePart : uint8_t { left, right, near, away, bottom, top, side, face };

/// Which face of a brush is meant, by its place in the structure of the shape. It stays the same whatever the
/// shape's values become; faces of bodies have numbers that edits carry along and never use twice.
struct FaceName {
    FacePart part = FacePart::top;
    bool inner = false; ///< within a hollow
    int number = -1;    ///< of several; -1: it is the only one

    FaceName() = default;
    FaceName(BoxSide side, int n = -1) : part(FacePart(side)), number(n) {} // NOLINT: a side is a face's name
    FaceName(FacePart p, int n) : part(p), number(n) {}
    auto operator<=>(const FaceName&) const = default;
};

/// In files: "top", "side:3", "inner/side:3".
std::string key_of(const FaceName& name);
/// Nothing where the key names no face.
std::optional<FaceName> face_name_from(const std::string& key);

/// Which side a face looks to, and its name.
struct NamedSide {
    BoxSide side = BoxSide::top;
    FaceName name;

    NamedSide() = default;
    NamedSide(BoxSide s) : side(s), name(s) {} // NOLINT: a side is a face's name
    NamedSide(BoxSide s, const FaceName& n) : side(s), name(n) {}
    operator BoxSide() const { return side; } // NOLINT: it is one
    bool operator==(const NamedSide&) const = default;
    bool operator==(BoxSide other) const { return side == other; }
};

/// What faces look like where it is not what the whole brush does, or lies otherwise.
using Looks = std::map<FaceName, Look>;

/// A face with its corners, counter-clockwise seen from outside.
struct NamedFace {
    NamedSide side;
    std::vector<Vec3> corners;
};

/// The faces of a brush in its own axes, several of one name where it is made of parts; large masses have
/// only their parts' faces.
std::vector<NamedFace> named_faces(const Brush& brush);
/// The same of a body as it lies.
std::vector<NamedFace> named_faces(const BrushBody& body);
/// The names of its faces that look to a side.
std::vector<FaceName> faces_towards(const Brush& brush, BoxSide side);

/// For each face of a body after a change the one of before that it is, or that it comes from; -1 where it is
/// new. In this order: the one in its plane with which it shares the most area; the one of its number, where
/// nothing else is that one now, since what only moves keeps its number.
std::vector<int> faces_before(const std::vector<NamedFace>& before, const std::vector<NamedFace>& after);

/// The looks of faces carried along to what they are now: split faces inherit, of joined ones the larger's
/// is kept, and a face that is none of before takes that of the one it resembles most.
Looks carried(const Looks& looks, const std::vector<NamedFace>& before, const std::vector<NamedFace>& after);

/// Whether the faces of two brushes are named alike, whatever their sizes.
bool same_structure(const Brush& a, const Brush& b);
/// A brush made from another one, with the looks of its faces.
Brush with_looks_of(Brush brush, const Brush& before);

} // namespace rubble
