#pragma once

#include <map>
#include <set>
#include <vector>

#include "base/id.h"
#include "level/face_name.h"
#include "level/mass.h"
#include "level/placement.h"

namespace rubble {

enum class Effect { fill, cut };
enum class Shape {
    box,
    ramp,
    stairs,
    curved_stairs,
    cylinder,
    cone,
    ball,
    arch,
    pipe,
    outline,
    wall_run,
    body,
    mass
};
/// How an arch's opening ends above.
enum class ArchKind { round, pointed, flat };

/// Whether a shape turns about its middle through an angle.
bool has_angle(Shape shape);
/// Whether a shape is made of points about `at`, so that its `size` follows from them.
bool has_points(Shape shape);

inline constexpr int least_sides = 3, most_sides = 64;
inline constexpr int most_steps = 200;
inline constexpr size_t most_points = 512; ///< of an outline or a body
inline constexpr int most_face_number = 1'000'000'000;
inline constexpr double most_stair_turn_deg = 1440;

/// A simple solid that adds matter to what comes before it, or takes matter away.
/// `at` is the middle of the base of the unturned box `size` that the shape fills; ramps and stairs rise
/// along +x. Of the values below `size` each shape uses some.
struct Brush {
    Effect effect = Effect::fill;
    Shape shape = Shape::box;
    Placement place;
    Vec3 size{1, 1, 1};
    int sides = 16;           ///< from least_sides to most_sides
    int steps = 8;            ///< of stairs, and straight pieces of a pipe bend
    double angle_deg = 90;    ///< through which curved stairs and pipe bends turn, counter-clockwise from +x;
                              ///< below 0: clockwise
    double inner_part = 0.4;  ///< of curved stairs' radius that they leave free, below 1
    double thickness_m = 0.5; ///< of an arch's frame, of a wall run, of the treads of stairs round and round,
                              ///< of a pipe's wall (0: it is solid)
    ArchKind arch = ArchKind::round;
    bool closed = false;                  ///< a wall run comes back to its first point
    std::vector<Vec2> points;             ///< an outline, counter-clockwise, or a wall run's path, about `at`
    std::vector<std::vector<Vec2>> holes; ///< of an outline, clockwise
    std::vector<Vec3> corners;            ///< a body's, about `at`
    std::vector<std::vector<int>> faces;  ///< a body's, by its corners, counter-clockwise seen from outside
    std::vector<int> face_numbers;        ///< a body's, of its faces' names; empty: they are counted from 0
    int next_face_number = 0;             ///< of those above, the first that no face ever had
    MassGrid cells;                       ///< a mass's, `at` its origin
    double shell_m = 0;                   ///< thickness of the walls of a shell; 0: it is solid
    std::set<BoxSide> open_sides;         ///< of a shell
    bool within_group = false; ///< a cut that takes away only from what stands before it in its own group
    ItemId host;               ///< of an opening: the item in whose wall it is, and which it follows
    MaterialId material;       ///< empty: bare stone, or on a cut the fill's own
    Looks looks;               ///< of faces that differ from `material`, or lie otherwise
    bool operator==(const Brush&) const = default;
};

} // namespace rubble
