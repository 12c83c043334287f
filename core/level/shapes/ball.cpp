#include "base/angle.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"
#include <cmath>

namespace rubble::shapes {

namespace {

BrushBody body_of_ball(const Brush& brush) {
    const int n = brush.sides, rings = std::max(2, n / 2);
    std::vector<Vec3> own{{0, 0, 0}, {0, 0, brush.size.z}};
    for (int ring = 1; ring < rings; ++ring) {
        const auto [c, s] = cos_sin(180.0 * ring / rings);
        for (int i = 0; i < n; ++i) {
            const auto [x, y] = cos_sin(360.0 * (i - 0.5) / n);
            own.push_back({x * s * brush.size.x / 2, y * s * brush.size.y / 2, (1 - c) * brush.size.z / 2});
        }
    }
    // By its ring from below, and its place around.
    return hull_of(brush, own, [&](const Vec3&, const Vec3& middle) {
        const Vec3 unit = (middle - Vec3(0, 0, brush.size.z / 2)) / brush.size;
        const int ring =
            int(degrees(std::acos(std::clamp(-unit.z / glm::length(unit), -1.0, 1.0))) / 180 * rings);
        const int around = int(std::lround(degrees(std::atan2(unit.y, unit.x)) / 360 * n) + n) % n;
        return FaceName(FacePart::side, ring * n + around);
    });
}

std::string problem_of_ball(const Brush& brush) {
    return std::min(brush.size.x, brush.size.y) < k_thinnest_round_m ? "size" : "";
}

} // namespace

/// Corners on rings of an ellipsoid; its faces are the triangles and quads of their convex hull.
ShapeKind ball() {
    return {.shape = Shape::ball,
            .key = "ball",
            .word = "ball",
            .round = true,
            .numbers = {k_sides},
            .body = body_of_ball,
            .problem = problem_of_ball};
}

} // namespace rubble::shapes
