#include "motion/freely/fixtures.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"

namespace rubble::motion {

namespace {

/// Half as wide as a ladder is, how far from its rungs one holds on to it beside the body's radius, and how
/// far over its ends (metres).
constexpr double k_half_wide_m = 0.4, k_grip_m = 0.25, k_over_m = 0.1;
/// The cosine of the widest angle at which the stick still means the ladder.
constexpr double k_means_it = 0.5;
/// How far over or under it a floor acts (metres).
constexpr double k_floor_m = 0.15;

template <class T> const T* first_that(const std::vector<T>& all, const auto& holds) {
    const auto found = std::find_if(all.begin(), all.end(), holds);
    return found == all.end() ? nullptr : &*found;
}

} // namespace

bool Room::holds(const Vec3& at, double near_m) const {
    const Vec3 own = place.to_own(at);
    return std::abs(own.x) <= size.x / 2 && std::abs(own.y) <= size.y / 2 && own.z >= -near_m &&
           own.z <= size.z + near_m;
}

bool Ladder::holds(const Vec3& at, double radius_m) const {
    if (at.z < foot.z - k_over_m || at.z > top() + k_over_m) return false;
    const Vec2 apart = flat(at) - flat(foot);
    const double beside = front.x * apart.y - front.y * apart.x, before = glm::dot(apart, front);
    if (behind) return std::abs(apart.x) <= k_half_wide_m;
    // At the top one goes on over the edge.
    const double least = at.z >= top() - tolerance::feet_m ? -radius_m - k_grip_m : -k_over_m;
    return std::abs(beside) <= k_half_wide_m && before >= least && before <= radius_m + k_grip_m;
}

int Ladder::wish(Vec2 stick) const {
    const double size = glm::length(stick);
    if (size < k_means_it) return 0;
    const double up = behind ? stick.y / size : -glm::dot(stick, front) / size;
    return up >= k_means_it ? 1 : up <= -k_means_it ? -1 : 0;
}

const Ladder* Fixtures::ladder_at(const Vec3& at, double radius_m) const {
    return first_that(ladders, [&](const Ladder& one) { return one.holds(at, radius_m); });
}

const ActingFloor* Fixtures::floor_at(const Vec3& feet) const {
    return first_that(floors, [&](const ActingFloor& one) { return one.room.holds(feet, k_floor_m); });
}

const Launcher* Fixtures::launcher_at(const Vec3& feet) const {
    return first_that(launchers, [&](const Launcher& one) { return one.room.holds(feet, k_floor_m); });
}

} // namespace rubble::motion
