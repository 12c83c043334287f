#pragma once

#include <vector>

#include <boost/container/small_vector.hpp>

#include "geometry/vec.h"

namespace rubble::geometry {

/// The side n·p + d <= 0 of a plane; n of unit length, pointing out.
struct HalfSpace {
    Vec3 normal{0, 0, 1};
    double d = 0;
    /// How far a place lies before the plane (metres).
    double distance(const Vec3& p) const { return glm::dot(normal, p) + d; }
    /// The other half of space.
    HalfSpace opposite() const { return {-normal, -d}; }
    bool operator==(const HalfSpace&) const = default;
};

/// A convex body of matter: its faces with their corners, counter-clockwise seen from outside.
struct ConvexCell {
    using Loop = boost::container::small_vector<Vec3, 4>;
    struct Face {
        HalfSpace plane;
        Loop loop;
        bool operator==(const Face&) const = default;
    };
    std::vector<Face> faces;
    bool operator==(const ConvexCell&) const = default;

    bool empty() const { return faces.size() < 4; }
    /// Of its corners.
    Box3 box() const;
    /// In cubic metres.
    double volume() const;
};

/// The part of `cell` inside the half space; empty where it would be thinner than tolerance::same_place_m.
ConvexCell clipped(const ConvexCell& cell, const HalfSpace& keep);
/// `cell` less `cutter`, as convex pieces that share no inner point.
std::vector<ConvexCell> subtracted(const ConvexCell& cell, const ConvexCell& cutter);

} // namespace rubble::geometry
