#pragma once

#include <vector>

#include "level/level.h"

namespace rubble {

/// A light of a level. Strong ones are told in what they send out (lumens), the sun in what arrives (lux).
struct Light {
    enum class Kind { sun, lamp };
    Kind kind = Kind::lamp;
    ItemId item;
    Vec3 at{0};
    Vec3 way{0, 0, -1};    ///< in which the sun, or the middle of a cone, shines
    Vec3 color{1};         ///< linear
    double strength = 800; ///< lumens, or lux
    double reach_m = 8;    ///< farther away nothing arrives
    double opening_deg = 360;

    /// Candela in the middle of what it lights: what it sends out, spread over its cone.
    double candela() const;
};

/// Whether a kind of element belongs to what a level looks like alone: lights and decals.
bool is_dressing(const std::string& kind);
/// Whether an item dresses a level and builds nothing: lights, decals and props, and groups of those.
bool belongs_to_dressing(const Item& item);

/// The lights of a level that are to be seen; a strip is several in a row.
std::vector<Light> lights_of(const Level& level);

/// How much of a light arrives on a face that looks along `normal` at a place, in the open (lux; Lambert's
/// cosine law, falling with the square of the distance, and smoothly to nothing at its reach).
double lux_at(const Light& light, const Vec3& at, const Vec3& normal);

} // namespace rubble
