#include "level/brush_shape.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "level/shapes.h"

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
        const NamedSide side(side_towards(360.0 * i / n), {FacePart::side, i});
        body.faces.push_back(cone ? BrushBody::Face{{i, next, n}, side}
                                  : BrushBody::Face{{i, next, n + next, n + i}, side});
    }
    body.faces.push_back(bottom);
    if (!cone) body.faces.push_back(top);
    return body;
}

BrushBody box_or_ramp(const Brush& brush) {
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

Box3 box_of_points(const std::vector<Vec2>& points) {
    Box3 box;
    for (const Vec2 p : points) box.add(raised(p, 0));
    return box;
}

bool is_within(const Vec3& v, double limit) {
    return std::abs(v.x) <= limit && std::abs(v.y) <= limit && std::abs(v.z) <= limit;
}

/// What is wrong with the values that a shape has besides its size.
std::string problem_of_values(const Brush& brush) {
    const Vec3& size = brush.size;
    if (has_sides(brush.shape, brush.arch) && (brush.sides < least_sides || brush.sides > most_sides))
        return "sides";
    if (is_round(brush.shape) && std::min(size.x, size.y) < k_thinnest_round_m) return "size";
    switch (brush.shape) {
    case Shape::stairs:
    case Shape::curved_stairs: {
        if (brush.steps < 1 || brush.steps > most_steps) return "steps";
        const double shortest =
            brush.shape == Shape::stairs ? std::min(size.x, size.z) : std::min({size.x, size.y, size.z});
        if (shortest / brush.steps < k_thinnest_m * 10) return "size";
        if (brush.shape == Shape::stairs) break;
        if (!(brush.inner_part >= 0 && brush.inner_part <= 0.95)) return "inner_part";
        if (std::min(size.x, size.y) < 2 * k_thinnest_round_m) return "size";
        // A step turns by less than half a circle and by more than rounding.
        const double angle = std::abs(brush.angle_deg), turn = angle / brush.steps;
        if (!(angle <= most_stair_turn_deg && turn <= 120 && turn >= 0.5)) return "angle_deg";
        if (angle > 360 && !(brush.thickness_m > 0)) return "thickness_m";
        break;
    }
    case Shape::arch:
        if (!(brush.thickness_m >= k_thinnest_round_m &&
              size.x - 2 * brush.thickness_m >= k_thinnest_round_m &&
              size.z - brush.thickness_m >= k_thinnest_round_m))
            return "thickness_m";
        break;
    case Shape::outline: {
        size_t count = brush.points.size();
        for (const auto& hole : brush.holes) count += hole.size();
        if (brush.points.size() < 3 || count > most_points) return "points";
        break;
    }
    case Shape::wall_run:
        if (brush.points.size() < (brush.closed ? 3u : 2u) || brush.points.size() > most_points)
            return "points";
        if (!(brush.thickness_m >= k_thinnest_round_m && brush.thickness_m <= geometry::longest_edge_m))
            return "thickness_m";
        for (size_t i = 0; i < brush.points.size(); ++i)
            if ((brush.closed || i + 1 < brush.points.size()) &&
                glm::length(brush.points[(i + 1) % brush.points.size()] - brush.points[i]) <
                    k_thinnest_round_m)
                return "points";
        break;
    case Shape::pipe:
        if (brush.steps < 1 || brush.steps > most_steps) return "steps";
        if (!shapes::is_sound_pipe(brush)) return "thickness_m";
        break;
    case Shape::mass:
        if (brush.cells.empty()) return "cells";
        if (!(brush.cells.cell_m >= least_cell_m && brush.cells.cell_m <= most_cell_m)) return "cell_m";
        break;
    case Shape::body:
        if (brush.corners.size() > most_points || brush.faces.size() > 2 * most_points) return "points";
        if (!brush.face_numbers.empty() && brush.face_numbers.size() != brush.faces.size())
            return "face_numbers";
        break;
    default:
        break;
    }
    return {};
}

} // namespace

BrushBody body_of(const Brush& brush) {
    if (brush.shell_m > 0) return shapes::shell(brush);
    switch (brush.shape) {
    case Shape::box:
    case Shape::ramp:
        return box_or_ramp(brush);
    case Shape::cylinder:
    case Shape::cone:
        return round_body(brush);
    case Shape::ball:
        return shapes::ball(brush);
    case Shape::stairs:
        return shapes::stairs(brush);
    case Shape::curved_stairs:
        return shapes::curved_stairs(brush);
    case Shape::arch:
        return shapes::arch(brush);
    case Shape::outline:
        return shapes::outline(brush);
    case Shape::wall_run:
        return shapes::wall_run(brush);
    case Shape::body:
        return shapes::body(brush);
    case Shape::pipe:
        return shapes::pipe(brush);
    case Shape::mass:
        return shapes::mass(brush);
    }
    return {};
}

Box3 own_box(const Brush& brush) {
    Box3 box;
    switch (brush.shape) {
    case Shape::outline:
        box = box_of_points(brush.points);
        break;
    case Shape::wall_run:
        for (const auto& piece : shapes::wall_pieces(brush))
            for (const Vec2 p : piece) box.add(raised(p, 0));
        break;
    case Shape::body:
        for (const Vec3& p : brush.corners) box.add(p);
        return box;
    case Shape::mass: {
        const CellBox cells = brush.cells.extent();
        const auto at = [&](const std::array<int, 3>& c) {
            return Vec3(c[0], c[1], c[2]) * brush.cells.cell_m;
        };
        return {at(cells.low), at(cells.high)};
    }
    default:
        return {{-brush.size.x / 2, -brush.size.y / 2, 0},
                {brush.size.x / 2, brush.size.y / 2, brush.size.z}};
    }
    box.low.z = 0, box.high.z = brush.size.z;
    return box;
}

Brush measured(Brush brush) {
    if (!has_points(brush.shape)) return brush;
    const Box3 box = own_box(brush);
    brush.size = box.high - box.low;
    return brush;
}

std::vector<Vec3> corners_of(const Brush& brush) {
    std::vector<Vec3> out;
    if (brush.shape == Shape::mass) { // those of its box: it may have very many
        const Box3 box = own_box(brush);
        for (int i = 0; i < 8; ++i)
            out.push_back(
                brush.place.to_level({(i & 1 ? box.high : box.low).x, (i & 2 ? box.high : box.low).y,
                                      (i & 4 ? box.high : box.low).z}));
        return out;
    }
    for (const TickPoint& p : body_of(brush).points) out.push_back(geometry::to_metres(p));
    return out;
}

FaceName body_face_name(const Brush& brush, int face) {
    return {FacePart::face, brush.face_numbers.empty() ? face : brush.face_numbers[size_t(face)]};
}

std::string problem_of(const Brush& brush) {
    for (const Vec2 p : brush.points)
        if (!is_within(raised(p, 0), geometry::longest_edge_m)) return "points";
    for (const auto& hole : brush.holes)
        for (const Vec2 p : hole)
            if (!is_within(raised(p, 0), geometry::longest_edge_m)) return "holes";
    for (const Vec3& p : brush.corners)
        if (!is_within(p, geometry::longest_edge_m)) return "points";
    if (const std::string problem = problem_of_values(brush); !problem.empty()) return problem;
    if (brush.shape == Shape::outline && !shapes::is_sound_outline(brush)) return "points";
    if (brush.shape == Shape::body && !shapes::is_sound_body(brush)) return "faces";
    if (!is_within(brush.place.at, geometry::farthest_m)) return "at";
    const Vec3 size = measured(brush).size;
    for (int axis = 0; axis < 3; ++axis)
        if (!(brush.size[axis] > 0) || // of one made of points too: what is typed is refused, not passed over
            !(size[axis] >= k_thinnest_m && size[axis] <= geometry::longest_edge_m))
            return "size";
    if (!(brush.shell_m >= 0) ||
        (brush.shell_m > 0 && (brush.shape == Shape::mass || !shapes::shell_mesh(brush))))
        return "shell_m";
    if (!std::isfinite(brush.place.turn_deg)) return "turn_deg";
    if (brush.place.rotation) {
        double square = 0;
        for (double v : *brush.place.rotation) square += v * v;
        if (!(std::abs(square - 1) < 1e-3)) return "rotation";
    }
    return {};
}

} // namespace rubble
