#include <cmath>

#include "base/angle.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

/// The side of the base box to which a direction in plan looks most, in the brush's own axes scaled to a
/// square.
BoxSide side_at(double deg) {
    constexpr std::array around{BoxSide::right, BoxSide::away, BoxSide::left, BoxSide::near};
    return around[size_t(std::lround(deg / 90)) % 4];
}

/// Corners on the ellipse that the base box holds, the first half a side before +x, so that with four sides a
/// side looks to each side of the box.
BrushBody body_of_round(const Brush& brush) {
    const int n = brush.sides;
    const bool cone = brush.shape == Shape::cone;
    BrushBody body;
    const geometry::TickPoint up = geometry::to_ticks(brush.place.direction({0, 0, brush.size.z}));
    for (int i = 0; i < n; ++i) {
        const double angle = radians(360.0 * (i - 0.5) / n);
        body.points.push_back(geometry::to_ticks(brush.place.to_level(
            {std::cos(angle) * brush.size.x / 2, std::sin(angle) * brush.size.y / 2, 0})));
    }
    BrushBody::Face bottom{{}, BoxSide::bottom}, top{{}, BoxSide::top};
    for (int i = n; i-- > 0;) bottom.loop.push_back(i);
    if (cone)
        body.points.push_back(geometry::to_ticks(brush.place.to_level({0, 0, brush.size.z})));
    else
        for (int i = 0; i < n; ++i)
            body.points.push_back(body.points[size_t(i)] + up), top.loop.push_back(n + i);
    for (int i = 0; i < n; ++i) {
        const int next = (i + 1) % n;
        const NamedSide side(side_at(360.0 * i / n), {FacePart::side, i});
        body.faces.push_back(cone ? BrushBody::Face{{i, next, n}, side}
                                  : BrushBody::Face{{i, next, n + next, n + i}, side});
    }
    body.faces.push_back(bottom);
    if (!cone) body.faces.push_back(top);
    return body;
}

std::string problem_of_round(const Brush& brush) {
    return std::min(brush.size.x, brush.size.y) < k_thinnest_round_m ? "size" : "";
}

} // namespace

ShapeKind cylinder() {
    return {.shape = Shape::cylinder,
            .key = "cylinder",
            .word = "cylinder",
            .round = true,
            .numbers = {k_sides},
            .body = body_of_round,
            .problem = problem_of_round};
}

ShapeKind cone() {
    return {.shape = Shape::cone,
            .key = "cone",
            .word = "cone",
            .round = true,
            .numbers = {k_sides},
            .body = body_of_round,
            .problem = problem_of_round};
}

} // namespace rubble::shapes
