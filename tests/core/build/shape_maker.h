#pragma once

#include <cmath>
#include <vector>

#include "base/angle.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "core/star.h"
#include "level/brush_shape.h"

namespace rubble::test {

inline build::SurfaceFacts facts(const Brush& brush) {
    LevelMaker maker;
    maker.brush(brush);
    return facts_of(build::surface_of(build::build_solid(maker.level())));
}

inline Brush of(Shape shape, const Vec3& size) {
    Brush brush;
    brush.shape = shape;
    brush.size = size;
    return brush;
}

inline Brush outline(std::vector<Vec2> points, double height) {
    Brush brush;
    brush.shape = Shape::outline;
    brush.points = std::move(points);
    brush.size.z = height;
    return measured(brush);
}

inline Brush wall(std::vector<Vec2> path, double thickness, double height, bool closed = false) {
    Brush brush;
    brush.shape = Shape::wall_run;
    brush.points = std::move(path);
    brush.thickness_m = thickness;
    brush.size.z = height;
    brush.closed = closed;
    return measured(brush);
}

/// A ring in the plane y, z drawn out along x, as a body.
inline Brush body_over(const std::vector<Vec2>& ring, double length) {
    Brush brush;
    brush.shape = Shape::body;
    const int n = int(ring.size());
    std::vector<int> front, back;
    for (const double x : {0.0, length})
        for (const Vec2 p : ring) brush.corners.push_back({x, p.x, p.y});
    for (int i = 0; i < n; ++i) {
        back.push_back(n + i), front.push_back(n - 1 - i);
        brush.faces.push_back({i, (i + 1) % n, n + (i + 1) % n, n + i});
    }
    brush.faces.push_back(front), brush.faces.push_back(back);
    return measured(brush);
}

inline double area_of(const std::vector<Vec2>& ring) {
    double sum = 0;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Vec2 a = ring[i], b = ring[(i + 1) % ring.size()];
        sum += a.x * b.y - a.y * b.x;
    }
    return sum / 2;
}

inline bool near(double a, double b, double part = 1e-6) {
    return std::abs(a - b) <= part * std::max(1.0, std::abs(b));
}

/// All kinds of shapes in a row.
inline Brush any_shape(Random& random, int kind) {
    const Vec3 size(random.stepped(2, 5, 0.25), random.stepped(2, 5, 0.25), random.stepped(2, 4, 0.25));
    Brush brush;
    switch (kind) {
    case 0:
        brush = of(Shape::stairs, size);
        break;
    case 1:
        brush = of(Shape::curved_stairs, size);
        brush.angle_deg = random.stepped(30, 340, 5);
        brush.inner_part = random.chance(0.3) ? 0 : random.between(0.1, 0.8);
        brush.steps = random.whole(4, 12);
        break;
    case 2:
        brush = of(Shape::ball, size);
        brush.sides = random.whole(4, 14);
        break;
    case 3:
        brush = of(Shape::arch, size);
        brush.thickness_m = random.between(0.2, 0.8);
        brush.arch = ArchKind(random.whole(0, 2));
        brush.sides = random.whole(3, 12);
        break;
    case 4:
        brush = outline(star(random, random.whole(5, 14)), size.z);
        break;
    case 5:
        brush = wall({{-2, -1}, {0, 1}, {2, -1}, {3, 2}}, random.between(0.2, 0.6), size.z);
        break;
    case 6:
        brush = of(Shape::curved_stairs, size);
        brush.angle_deg = random.stepped(400, 720, 20);
        brush.steps = random.whole(14, 20);
        brush.thickness_m = 0.3;
        break;
    case 7:
        brush = body_over(
            {{-1, 0}, {2, 0}, {2, size.z}, {1, size.z}, {random.between(0, 0.9), 1}, {-1, size.z}}, size.x);
        break;
    default:
        brush = of(random.chance(0.5) ? Shape::box : Shape::ramp, size);
    }
    return brush;
}

} // namespace rubble::test
