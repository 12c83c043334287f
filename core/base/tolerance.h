#pragma once

namespace rubble::tolerance {

/// Every distance, angle or time below which two things count as the same stands here, with its reason.

/// Limits of the character are inclusive by this much, so that a step of exactly the step height is taken
/// whatever rounding did to it (metres).
inline constexpr double limit_m = 1e-3;
/// The same for slopes (degrees).
inline constexpr double limit_deg = 0.1;
/// Distance kept from matter after a contact: far above rounding at a kilometre (1e-13 relative), far
/// below the millimetre of overlap that is allowed (metres).
inline constexpr double skin_m = 1e-6;
/// Heights closer than this are one height: it separates the support below the feet from matter beside
/// them (metres).
inline constexpr double same_height_m = 1e-5;
/// Plane coordinates closer than this are one point when areas are cut up; slivers below it are dropped.
/// A passage is decided to 2 cm, two thousand times more (metres).
inline constexpr double same_place_m = 1e-6;
/// Two walkable areas touch where their common edge is at least this long (metres).
inline constexpr double touching_m = 1e-3;
/// Corners of grown obstacles are drawn by tangents this far apart at most. It leaves the true round by
/// at most r (1/cos(half) - 1): 5.9 mm at a radius of 0.30 m, so two corners stay under the 2 cm to which
/// passages are decided (degrees).
inline constexpr double corner_step_deg = 22.5;
/// Speed below which a figure counts as standing still (metres per second).
inline constexpr double still_mps = 1e-9;

} // namespace rubble::tolerance
