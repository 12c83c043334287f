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

// Shapes of brushes. Corners are whole ticks of a micrometre.

/// Two numbers that were worked out in different ways and are one (metres, cells).
inline constexpr double same_number = 1e-9;
/// A corner of a turned brush lies off its face's plane by no more than its rounding leaves (metres).
inline constexpr double rounding_m = 3e-6;
/// Corners of two parts of a body that are one but for that rounding (metres).
inline constexpr double one_corner_m = 2e-6;
/// Points nearer than this to an edge lie on it (metres).
inline constexpr double on_edge_m = 5e-6;
/// Points put onto others, as one drags a corner onto its neighbour, become one with them; faces that lie on
/// each other are no sliver (metres).
inline constexpr double on_each_other_m = 1e-5;
/// Sides that lie nearer to each other than this are in one plane: the step of people's places (metres).
inline constexpr double one_plane_m = 1e-4;
/// And by how much the cosine between their normals may fall short of one; between faces that are to become
/// one; and between faces of one body that must name one exact plane, with the metres between their offsets.
inline constexpr double one_way = 1e-6, nearly_one_way = 1e-8, exactly_one_way = 1e-12,
                        exactly_one_plane_m = 1e-7;
/// The thinnest brush; and across a round one, whose corners would else fall onto one line when they are
/// rounded (metres).
inline constexpr double thinnest_m = 1e-5, thinnest_round_m = 0.01;
/// Length in plan of a direction of unit length below which it is upright, and has no heading.
inline constexpr double upright = 1e-6;
/// Faces steeper than this are walls and carry no height (cosine of the tilt).
inline constexpr double carries_no_height = 1e-7;

// Runs.

/// Where a disc touches the rim of matter it lies on it to this (metres).
inline constexpr double on_rim_m = 1e-8;
/// Where a walk comes to rest it is at the place to this: what the stick's rounding allows (metres).
inline constexpr double at_rest_there_m = 1e-7;
/// Feet are looked for within this of a fragment's height (metres).
inline constexpr double feet_m = 0.05;
/// The feet's middle must cover a thing by a little more than rounding (metres).
inline constexpr double covered_m = 1e-3;

} // namespace rubble::tolerance
