#pragma once

#include <cmath>
#include <numbers>

namespace rubble {

/// Degrees are the program's only public angle; radians live inside expressions.
inline constexpr double radians(double deg) { return deg * (std::numbers::pi / 180.0); }
/// The angle of so many radians.
inline constexpr double degrees(double rad) { return rad * (180.0 / std::numbers::pi); }

/// Cosine and sine of an angle in degrees, exact at the quarter turns so that turned boxes stay on the grid.
struct CosSin {
    double cos = 1;
    double sin = 0;
};

/// Both of an angle; see above.
inline CosSin cos_sin(double deg) {
    // As most things stand, without asking for a remainder.
    if (deg == 0.0) return {1, 0};
    if (deg == 90.0) return {0, 1};
    const double turn = std::fmod(std::fmod(deg, 360.0) + 360.0, 360.0);
    if (turn == 0.0) return {1, 0};
    if (turn == 90.0) return {0, 1};
    if (turn == 180.0) return {-1, 0};
    if (turn == 270.0) return {0, -1};
    return {std::cos(radians(turn)), std::sin(radians(turn))};
}

} // namespace rubble
