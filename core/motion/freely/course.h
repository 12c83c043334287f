#pragma once

#include <vector>

#include "geometry/vec.h"

namespace rubble::motion {

/// A way through places that is gone over and over again at an even speed, in whole steps of play.
class Course {
public:
    Course() = default;
    /// Through places in order, and waits at each (seconds); `back` leads back the way it came, else from the
    /// last straight to the first. Fewer than two places, or no speed: it stays.
    Course(std::vector<Vec3> places, double speed_mps, double wait_s, bool back);
    /// Through places in order without waiting, and from the last straight to the one with that number, from
    /// where it goes on again and again.
    Course(std::vector<Vec3> places, double speed_mps, size_t repeats_from);

    /// How many steps it takes; it is the same again after them. At least 1.
    int steps() const { return steps_; }
    /// The step after one.
    int next(int step) const { return step + 1 < steps_ ? step + 1 : repeats_from_; }
    /// Where it is after so many steps.
    Vec3 at(int step) const;
    /// Whether it waits then, and at which of its places; -1 where it is under way.
    int waits_at(int step) const { return parts_.empty() ? 0 : part_of(step).place; }
    /// The step with which the wait begins in which a step lies.
    int wait_begins(int step) const { return parts_.empty() ? 0 : part_of(step).begin; }
    const std::vector<Vec3>& places() const { return places_; }

private:
    /// A wait, or a straight way.
    struct Part {
        int begin = 0, steps = 0;
        Vec3 from{0}, to{0};
        int place = -1; ///< where it waits
    };
    const Part& part_of(int step) const;

    std::vector<Vec3> places_;
    std::vector<Part> parts_;
    int steps_ = 1, repeats_from_ = 0;
};

} // namespace rubble::motion
