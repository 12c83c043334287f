#include "check/route_light.h"

#include "base/angle.h"
#include "motion/sweep.h"

namespace rubble::check {

namespace {

/// A look is so thick, and as long as this where it goes into the open (metres).
constexpr double k_look_m = 0.01, k_open_m = 200;
/// The sky sends so much of what the sun does.
constexpr double k_sky_share = 0.18;
/// The sky is looked at in rings of so many looks, at these heights.
constexpr int k_looks_round = 6;
constexpr double k_heights_deg[] = {20, 55};

/// In short steps: a long look is near very many things that it goes past.
bool free_along(const motion::World& world, const Vec3& from, const Vec3& way, double highest) {
    constexpr double k_step_m = 4;
    const double length = glm::length(way);
    const Vec3 ahead = way / std::max(length, 1e-9);
    for (double gone = 0; gone < length; gone += k_step_m) {
        const Vec3 at = from + ahead * gone;
        if (at.z > highest && ahead.z >= 0) return true;
        const motion::Body look{at - Vec3(0, 0, k_look_m / 2), k_look_m, k_look_m};
        if (motion::first_contact(world, look, ahead * std::min(k_step_m, length - gone))) return false;
    }
    return true;
}

/// The part of the sky that is seen.
double open_sky(const motion::World& world, const Vec3& eye, double highest) {
    int open = free_along(world, eye, {0, 0, k_open_m}, highest), looks = 1;
    for (const double height : k_heights_deg)
        for (int i = 0; i < k_looks_round; ++i, ++looks) {
            const auto [c, s] = cos_sin(360.0 * i / k_looks_round);
            const auto [level, up] = cos_sin(height);
            open += free_along(world, eye, Vec3(c * level, s * level, up) * k_open_m, highest);
        }
    return double(open) / looks;
}

} // namespace

double lux_at_eye(const motion::World& world, const std::vector<Light>& lights, const Vec3& eye) {
    double sum = 0, sun = 0, highest = world.lowest();
    for (const motion::Column& column : world.columns()) highest = std::max(highest, column.high);
    for (const Light& light : lights) {
        if (light.kind == Light::Kind::sun) {
            sun += light.strength;
            if (free_along(world, eye, -light.way * k_open_m, highest)) sum += lux_at(light, eye, -light.way);
            continue;
        }
        const Vec3 to = light.at - eye;
        const double far = glm::length(to);
        const double lux = far > 1e-6 ? lux_at(light, eye, to / far) : 0;
        if (lux > 0 && free_along(world, eye, to, highest)) sum += lux;
    }
    return sun > 0 ? sum + sun * k_sky_share * open_sky(world, eye, highest) : sum;
}

} // namespace rubble::check
