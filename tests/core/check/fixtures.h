#pragma once

#include "check/check.h"
#include "core/level_maker.h"

namespace rubble::test {

/// Two ledges of which one faces the other across a gap, turned as a whole, with a start on one and a goal
/// on the other.
struct GapFixture {
    double gap_m = 4, rise_m = 0, heading_deg = 0;
    double from_depth_m = 8; ///< of the take-off ledge along the way
    double to_depth_m = 8;

    Level level(const CharacterChanges& changes) const {
        LevelMaker maker;
        const auto [c, s] = cos_sin(heading_deg);
        auto at = [&, c = c, s = s](double along, double z) { return Vec3(along * c, along * s, z); };
        // The landing is as high as the rise says; both reach far down, so that no way leads around below.
        maker.box(at(-from_depth_m / 2, -30), {from_depth_m, 4, 30}, heading_deg);
        maker.box(at(gap_m + to_depth_m / 2, -30), {to_depth_m, 4, 30 + rise_m}, heading_deg);
        const ItemId start = maker.start(at(-std::min(1.0, from_depth_m / 2), 0));
        const ItemId goal = maker.goal(at(gap_m + to_depth_m / 2, rise_m));
        maker.claim(Claim::Kind::reaches, start, goal);
        maker.change("survived_fall_m", 100);
        for (const auto& [key, value] : changes) maker.change(key, value);
        return maker.level();
    }
};

inline check::ClaimState first_claim(const Level& level) {
    check::CheckOptions options;
    options.explain = false;
    return check::check_level({}, level, options).claims.at(0).state;
}

} // namespace rubble::test
