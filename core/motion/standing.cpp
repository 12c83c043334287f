#include "motion/standing.h"

#include <cmath>

#include "base/angle.h"
#include "base/tolerance.h"

namespace rubble::motion {

std::optional<Vec3> standing_place_near(const World& world, const Character& c, const Vec3& near,
                                        double within) {
    constexpr double k_ring_m = 0.25;
    constexpr int k_around = 12;
    for (int ring = 0; ring * k_ring_m <= within; ++ring)
        for (int i = 0; i < (ring == 0 ? 1 : k_around); ++i) {
            const auto [cosine, sine] = cos_sin(360.0 * i / k_around);
            const Vec3 at = near + Vec3(cosine, world.flat_on() ? 0 : sine, 0) * (ring * k_ring_m);
            const Body body{at, c.radius_m - 2 * tolerance::skin_m, c.height_m};
            // Ground at hand first, then what lies below.
            const auto support = support_below(world, body, c.step_height_m, within);
            if (!support || !is_ground(c, world.columns()[size_t(support->column)])) continue;
            const State state = state_at(world, c, {at.x, at.y, support->height});
            if (state.standing && overlap_m(world, body_of(c, state)) < tolerance::limit_m) return state.at;
        }
    return {};
}

} // namespace rubble::motion
