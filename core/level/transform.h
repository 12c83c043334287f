#pragma once

#include <variant>

#include "level/placement.h"

namespace rubble {

/// An upright plane across an axis (0 x, 1 y) that things are mirrored in.
struct MirrorPlane {
    int axis = 0;
    double at_m = 0;
    bool operator==(const MirrorPlane&) const = default;
};

/// One of the ways in which whole items go elsewhere: moved, turned, mirrored, or sized in proportion. What
/// an item must know of it is where places, placements and headings come to.
class Transform {
public:
    /// Everything goes one way.
    static Transform moving(const Vec3& by) { return Transform(Move{by}); }
    /// Counter-clockwise seen against the axis, which is of unit length.
    static Transform turning(const Vec3& about, double deg, const Vec3& axis = {0, 0, 1}) {
        return Transform(Turn{about, axis, deg});
    }
    /// Everything comes to the other side of an upright plane.
    static Transform mirroring(const MirrorPlane& plane) { return Transform(plane); }
    /// About a place that stays; `factor` is above 0.
    static Transform scaling(const Vec3& about, double factor) { return Transform(Scale{about, factor}); }

    /// By how much measures grow.
    double factor() const;
    /// Whether left becomes right.
    bool mirrors() const { return std::holds_alternative<MirrorPlane>(how_); }
    /// Where a place comes to.
    Vec3 applied_to(const Vec3& place) const;
    /// Where something stands then. Mirrored, it is meant for the image of its body in its own plane y = 0.
    Placement applied_to(const Placement& place) const;
    /// The heading of something upright that stood at `place`; of a tilt it takes what shows in plan.
    double heading_deg(const Vec3& place, double deg) const;

private:
    struct Move {
        Vec3 by;
    };
    struct Turn {
        Vec3 about, axis;
        double deg;
    };
    struct Scale {
        Vec3 about;
        double factor;
    };
    using How = std::variant<Move, Turn, MirrorPlane, Scale>;
    explicit Transform(How how) : how_(std::move(how)) {}
    How how_;
};

} // namespace rubble
