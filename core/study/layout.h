#pragma once

#include "check/check.h"

namespace rubble::study {

/// A lift is stepped onto from so far beside its middle, and so far below and above (metres).
inline constexpr double beside_lift_m = 2.5, over_lift_m = 0.6;

/// The ground that one gets to, in parts of a few metres, and the ways between them: what those who do not
/// know a level can learn of it. What it is made of outlives it.
class Layout {
public:
    /// `rides` are further ways, from one place to the other and back.
    struct Ride {
        Vec3 from{0}, to{0};
        double seconds = 0;
    };
    Layout(const motion::World& world, const check::Ground& ground, const check::Reach& reach,
           const Character& character, const std::vector<Ride>& rides);

    struct Way {
        int to = -1;
        double seconds = 0;
    };
    struct Part {
        Vec3 at{0}; ///< to stand, about its middle
        double area_m2 = 0;
        std::vector<Way> ways;
        std::vector<int> seen; ///< parts that are seen from there, ascending
    };
    const std::vector<Part>& parts() const { return parts_; }
    /// The part at a place of the feet; the nearest one where none is there; -1 where there are no parts.
    int part_at(const Vec3& feet) const;

private:
    void part_ground();
    void add_ways(const std::vector<Ride>& rides);
    void look_around();
    int near(const Vec3& feet, double within_m) const;

    const motion::World& world_;
    const check::Ground& ground_;
    const check::Reach& reach_;
    const Character& c_;
    double side_m_ = 0;
    std::vector<int> part_of_; ///< for each fragment; -1: one does not get there
    std::vector<Part> parts_;
};

} // namespace rubble::study
