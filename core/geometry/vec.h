#pragma once

#include <algorithm>
#include <limits>

#define GLM_FORCE_XYZW_ONLY
#include <glm/geometric.hpp>
#include <glm/mat3x3.hpp>
#include <glm/vec2.hpp>
#include <glm/vec3.hpp>
#include <glm/vec4.hpp>

namespace rubble {

/// Metres, x right, y away, z up.
using Vec2 = glm::dvec2;
using Vec3 = glm::dvec3;

/// Of two vectors in plan: above 0 where `b` lies to the left of `a`.
inline double cross(Vec2 a, Vec2 b) { return a.x * b.y - a.y * b.x; }
/// `a` turned a quarter counter-clockwise.
inline Vec2 left_of(Vec2 a) { return {-a.y, a.x}; }
/// What of it lies in plan.
inline Vec2 flat(const Vec3& p) { return {p.x, p.y}; }
/// A place in plan at a height.
inline Vec3 raised(Vec2 p, double z) { return {p.x, p.y, z}; }

/// Axis-aligned box; empty while `low` is above `high`.
struct Box3 {
    Vec3 low{std::numeric_limits<double>::infinity()};
    Vec3 high{-std::numeric_limits<double>::infinity()};

    bool empty() const { return !(low.x <= high.x && low.y <= high.y && low.z <= high.z); }
    /// Makes it hold that too.
    void add(const Vec3& p) { low = glm::min(low, p), high = glm::max(high, p); }
    /// Makes it hold that too.
    void add(const Box3& b) { low = glm::min(low, b.low), high = glm::max(high, b.high); }
    /// Larger on every side.
    Box3 grown(double by) const { return {low - Vec3(by), high + Vec3(by)}; }
    /// Whether the two have a place in common.
    bool touches(const Box3& b) const {
        return low.x <= b.high.x && b.low.x <= high.x && low.y <= b.high.y && b.low.y <= high.y &&
               low.z <= b.high.z && b.low.z <= high.z;
    }
    /// Its middle; of an empty one, not a number.
    Vec3 middle() const { return (low + high) * 0.5; }
    bool operator==(const Box3&) const = default;
};

/// The same in the plane.
struct Box2 {
    Vec2 low{std::numeric_limits<double>::infinity()};
    Vec2 high{-std::numeric_limits<double>::infinity()};

    bool empty() const { return !(low.x <= high.x && low.y <= high.y); }
    /// Makes it hold that too.
    void add(Vec2 p) { low = glm::min(low, p), high = glm::max(high, p); }
    /// Larger on every side.
    Box2 grown(double by) const { return {low - Vec2(by), high + Vec2(by)}; }
    /// Whether the two have a place in common.
    bool touches(const Box2& b) const {
        return low.x <= b.high.x && b.low.x <= high.x && low.y <= b.high.y && b.low.y <= high.y;
    }
    /// Whether a place lies in it.
    bool contains(Vec2 p) const { return low.x <= p.x && p.x <= high.x && low.y <= p.y && p.y <= high.y; }
    bool operator==(const Box2&) const = default;
};

/// What of it lies in plan.
inline Box2 flat(const Box3& b) { return {flat(b.low), flat(b.high)}; }

} // namespace rubble
