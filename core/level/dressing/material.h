#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <string>

#include "base/id.h"
#include "base/shared.h"
#include "geometry/vec.h"
#include "level/dressing/picture_bytes.h"
#include "level/extra.h"

namespace rubble {

/// Whether a material's picture repeats, or is one of several pictures printed beside each other.
enum class MaterialKind { pattern, prints };

/// What a picture of a material tells of each of its places.
enum class PictureRole { color, normal, roughness, metal, glow };

/// A part of a picture in pixels, from its upper left corner.
struct PrintRegion {
    int x = 0, y = 0, width = 0, height = 0;
    bool operator==(const PrintRegion&) const = default;
};

/// What faces are made of to the eye.
struct Material {
    MaterialId id;
    std::string name;
    std::array<uint8_t, 3> color{0xBD, 0xB6, 0xA9}; ///< sRGB; where there is no picture of it
    double roughness = 0.9;
    double metal = 0;
    MaterialKind kind = MaterialKind::pattern;
    std::map<PictureRole, std::string> pictures = {}; ///< their files, named from the project's folder
    Vec2 metres{2, 2};                                ///< of one repeat, across and up
    std::map<std::string, PrintRegion> prints = {};   ///< by name
    /// The pictures that could be read.
    std::map<PictureRole, Shared<PictureBytes>> read = {};
    Extra extra = {};
    bool operator==(const Material&) const = default;

    /// Its picture of the colour; null where it has none that could be read.
    const PictureBytes* picture() const {
        const auto known = read.find(PictureRole::color);
        return known == read.end() ? nullptr : known->second.get();
    }
};

/// What the faces of a layer get that are still bare, by where they look; an empty one leaves them so.
struct StandardMaterials {
    MaterialId floor, wall, ceiling;
    bool operator==(const StandardMaterials&) const = default;
};

} // namespace rubble
