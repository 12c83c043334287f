#pragma once

#include <array>
#include <optional>

#include "level/brush_shape.h"
#include "level/face_mesh.h"

namespace rubble::shapes {

// The bodies of the shapes, one function each. They take brushes that have no problem.

/// Corners on rings of an ellipsoid; its faces are the triangles and quads of their convex hull.
BrushBody ball(const Brush& brush);
/// One cell for each step, from the base to its tread.
BrushBody stairs(const Brush& brush);
/// The same around the middle; round and round the treads have a thickness, so that one gets under them.
BrushBody curved_stairs(const Brush& brush);
/// Two piers and what spans them, cut upright at the corners of the curve.
BrushBody arch(const Brush& brush);
/// An outline raised to its height, in convex parts.
BrushBody outline(const Brush& brush);
/// One cell for each straight piece of the wall, mitred where that leaves it convex.
BrushBody wall_run(const Brush& brush);
BrushBody body(const Brush& brush);
/// Straight pieces of a tube that turns about the middle of the base; with a thickness, a bored one.
BrushBody pipe(const Brush& brush);
/// One cell for each convex part of its matter. It has no `faces`: only cells.
BrushBody mass(const Brush& brush);
/// A convex part of a mass, in the mass's own axes; without faces where nothing is left of it.
FaceMesh mass_part(const MassPart& part, double cell_m);
/// Any closed body, in the brush's own axes, with a name for each face; bent faces as triangles.
BrushBody concave_body(const Brush& brush, const FaceMesh& mesh, const std::vector<FaceName>& names);
/// A brush of any other shape hollowed out.
BrushBody shell(const Brush& brush);
/// The closed body of a shell in its own axes; nothing where its walls leave no hollow.
std::optional<FaceMesh> shell_mesh(const Brush& brush);

/// The side of the base box to which a direction in the brush's own axes looks most.
BoxSide side_towards(const Vec3& own);

/// The corners of a wall run's cells in plan, each counter-clockwise.
std::vector<std::array<Vec2, 4>> wall_pieces(const Brush& brush);

/// Whether the outline's rings, or the body's faces, can be built.
bool is_sound_outline(const Brush& brush);
bool is_sound_body(const Brush& brush);
/// Whether a pipe's values fit each other: its tube leaves the middle free, and its bore a wall.
bool is_sound_pipe(const Brush& brush);

} // namespace rubble::shapes
