#include "motion/freely/course.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "motion/step.h"

namespace rubble::motion {

namespace {

/// Longer courses than this are of no use to anybody, and their steps are counted in whole numbers.
constexpr double k_longest_s = 3600;

int steps_of(double seconds) { return int(std::lround(std::clamp(seconds, 0.0, k_longest_s) / step_s)); }

} // namespace

Course::Course(std::vector<Vec3> places, double speed_mps, double wait_s, bool back)
    : places_(std::move(places)) {
    if (places_.size() < 2 || !(speed_mps > 0)) return;
    const int count = int(places_.size());
    std::vector<int> order;
    for (int i = 0; i < count; ++i) order.push_back(i);
    for (int i = count - 2; back && i > 0; --i) order.push_back(i);
    int begin = 0;
    for (size_t i = 0; i < order.size(); ++i) {
        const Vec3 from = places_[size_t(order[i])], to = places_[size_t(order[(i + 1) % order.size()])];
        if (const int wait = steps_of(wait_s); wait > 0) {
            parts_.push_back({begin, wait, from, from, order[i]});
            begin += wait;
        }
        const double length = glm::length(to - from);
        if (length < tolerance::same_place_m) continue;
        parts_.push_back({begin, std::max(steps_of(length / speed_mps), 1), from, to, -1});
        begin += parts_.back().steps;
    }
    steps_ = std::max(begin, 1);
}

Course::Course(std::vector<Vec3> places, double speed_mps, size_t repeats_from) : places_(std::move(places)) {
    if (places_.size() < 2 || !(speed_mps > 0)) return;
    int begin = 0;
    for (size_t i = 0; i < places_.size(); ++i) {
        if (i == repeats_from) repeats_from_ = begin;
        const Vec3 from = places_[i], to = places_[i + 1 < places_.size() ? i + 1 : repeats_from];
        const double length = glm::length(to - from);
        if (length < tolerance::same_place_m) continue;
        parts_.push_back({begin, std::max(steps_of(length / speed_mps), 1), from, to, -1});
        begin += parts_.back().steps;
    }
    steps_ = std::max(begin, 1);
    repeats_from_ = std::min(repeats_from_, steps_ - 1);
}

const Course::Part& Course::part_of(int step) const {
    const int within = step % steps_;
    const auto next = std::upper_bound(parts_.begin(), parts_.end(), within,
                                       [](int at, const Part& part) { return at < part.begin; });
    return *std::prev(next);
}

Vec3 Course::at(int step) const {
    if (parts_.empty()) return places_.empty() ? Vec3(0) : places_[0];
    const Part& part = part_of(step);
    return part.from + (part.to - part.from) * (double(step % steps_ - part.begin) / part.steps);
}

} // namespace rubble::motion
