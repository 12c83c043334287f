#include "level/brush_shape.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"

namespace rubble {

namespace {

using geometry::TickPoint;

TickPoint operator+(const TickPoint& a, const TickPoint& b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }

constexpr double k_thinnest_m = 1e-5;
/// Thinner ones would have sides whose corners fall onto one line when they are rounded to ticks.
constexpr double k_thinnest_round_m = 0.01;

/// The side of the base box to which a direction in plan looks most, in the brush's own axes scaled to a
/// square.
BoxSide side_towards(double deg) {
    constexpr std::array around{BoxSide::right, BoxSide::away, BoxSide::left, BoxSide::near};
    return around[size_t(std::lround(deg / 90)) % 4];
}

/// Corners on the ellipse that the base box holds, the first half a side before +x, so that with four sides a
/// side looks to each side of the box.
BrushBody round_body(const Brush& brush) {
    const int n = brush.sides;
    const bool cone = brush.shape == Shape::cone;
    BrushBody body;
    const TickPoint up = geometry::to_ticks(brush.place.direction({0, 0, brush.size.z}));
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
        const BoxSide side = side_towards(360.0 * i / n);
        body.faces.push_back(cone ? BrushBody::Face{{i, next, n}, side}
                                  : BrushBody::Face{{i, next, n + next, n + i}, side});
    }
    body.faces.push_back(bottom);
    if (!cone) body.faces.push_back(top);
    return body;
}

} // namespace

BrushBody body_of(const Brush& brush) {
    if (is_round(brush.shape)) return round_body(brush);
    const Placement& place = brush.place;
    const TickPoint x = geometry::to_ticks(place.direction({brush.size.x, 0, 0}));
    const TickPoint y = geometry::to_ticks(place.direction({0, brush.size.y, 0}));
    const TickPoint z = geometry::to_ticks(place.direction({0, 0, brush.size.z}));
    const TickPoint o = geometry::to_ticks(place.to_level({-brush.size.x / 2, -brush.size.y / 2, 0}));

    BrushBody body;
    if (brush.shape == Shape::ramp) {
        body.points = {o, o + x, o + x + y, o + y, o + x + z, o + x + y + z};
        body.faces = {{{0, 3, 2, 1}, BoxSide::bottom},
                      {{0, 1, 4}, BoxSide::near},
                      {{3, 5, 2}, BoxSide::away},
                      {{1, 2, 5, 4}, BoxSide::right},
                      {{0, 4, 5, 3}, BoxSide::top}};
        return body;
    }
    body.points = {o, o + x, o + x + y, o + y, o + z, o + x + z, o + x + y + z, o + y + z};
    body.faces = {{{0, 4, 7, 3}, BoxSide::left},   {{1, 2, 6, 5}, BoxSide::right},
                  {{0, 1, 5, 4}, BoxSide::near},   {{3, 7, 6, 2}, BoxSide::away},
                  {{0, 3, 2, 1}, BoxSide::bottom}, {{4, 5, 6, 7}, BoxSide::top}};
    return body;
}

std::vector<Vec3> corners_of(const Brush& brush) {
    std::vector<Vec3> out;
    for (const TickPoint& p : body_of(brush).points) out.push_back(geometry::to_metres(p));
    return out;
}

std::string problem_of(const Brush& brush) {
    for (int axis = 0; axis < 3; ++axis) {
        const double size = brush.size[axis];
        if (!(size >= k_thinnest_m && size <= geometry::longest_edge_m)) return "size";
        if (!(std::abs(brush.place.at[axis]) <= geometry::farthest_m)) return "at";
    }
    if (is_round(brush.shape)) {
        if (brush.sides < least_sides || brush.sides > most_sides) return "sides";
        if (std::min(brush.size.x, brush.size.y) < k_thinnest_round_m) return "size";
    }
    if (!std::isfinite(brush.place.turn_deg)) return "turn_deg";
    if (brush.place.rotation) {
        double square = 0;
        for (double v : *brush.place.rotation) square += v * v;
        if (!(std::abs(square - 1) < 1e-3)) return "rotation";
    }
    return {};
}

const char* side_key(BoxSide side) {
    static constexpr std::array names{"left", "right", "near", "away", "bottom", "top"};
    return names[size_t(side)];
}

} // namespace rubble
