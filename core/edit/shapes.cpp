#include "edit/shapes.h"

#include <algorithm>
#include <cmath>

#include "edit/body.h"
#include "level/shapes/shape_kind.h"

namespace rubble::edit {

namespace {

/// The corners of the base, in the brush's own axes, as an outline has them.
std::vector<Vec2> base_of(const Brush& brush) {
    if (brush.shape == Shape::cylinder || brush.shape == Shape::cone || brush.shape == Shape::ball) {
        std::vector<Vec2> ring;
        for (int i = 0; i < brush.sides; ++i) {
            const auto [c, s] = cos_sin(360.0 * (i - 0.5) / brush.sides);
            ring.push_back({c * brush.size.x / 2, s * brush.size.y / 2});
        }
        return ring;
    }
    const Box3 box = own_box(brush);
    return {
        {box.low.x, box.low.y}, {box.high.x, box.low.y}, {box.high.x, box.high.y}, {box.low.x, box.high.y}};
}

/// A shape of points as the box around it.
Brush boxed(Brush brush) {
    const Box3 box = own_box(brush);
    const Vec3 middle = box.middle();
    brush.place.at = brush.place.to_level({middle.x, middle.y, box.low.z});
    brush.size = box.high - box.low;
    brush.points.clear(), brush.holes.clear(), brush.corners.clear(), brush.faces.clear();
    brush.cells = {};
    brush.closed = false;
    return brush;
}

/// `at` in the middle of the box of some places, and the places about it.
Vec3 taken_about_middle(const std::vector<Vec3>& places, std::vector<Vec2>& points) {
    Box3 box;
    for (const Vec3& p : places) box.add(p);
    const Vec3 at(box.middle().x, box.middle().y, places.empty() ? 0 : places[0].z);
    for (const Vec3& p : places) points.push_back({p.x - at.x, p.y - at.y});
    return at;
}

} // namespace

int proposed_steps(double height_m, const Character& c) {
    if (c.step_height_m <= 0) return most_steps;
    return std::clamp(int(std::ceil(std::abs(height_m) / c.step_height_m - 1e-9)), 1, most_steps);
}

Brush with_fitting_values(Brush brush, const Character& character) {
    if (brush.shape == Shape::stairs || brush.shape == Shape::curved_stairs)
        brush.steps = proposed_steps(brush.size.z, character);
    if (brush.shape == Shape::curved_stairs) {
        // A step turns by no more than a third of a circle and by no less than half a degree.
        brush.steps = std::max(brush.steps, int(std::ceil(std::abs(brush.angle_deg) / 45)));
        if (std::abs(brush.angle_deg) > 360) {
            // Over one's head by the height of one round, less the tread.
            brush.thickness_m = std::max(brush.size.z / brush.steps, std::min(0.3, brush.size.z / 8));
        }
    }
    if (brush.shape == Shape::pipe) {
        // The bend leaves its middle free, and the wall a bore.
        brush.size.z =
            std::clamp(brush.size.z, 0.02, std::max(0.02, std::min(brush.size.x, brush.size.y) / 2 - 0.01));
        brush.steps = std::max(brush.steps, int(std::ceil(std::abs(brush.angle_deg) / 45)));
        brush.thickness_m = std::min(0.1, brush.size.z / 8);
    }
    if (brush.shape == Shape::arch) brush.thickness_m = std::min({0.5, brush.size.x / 5, brush.size.z / 5});
    if (brush.shape == Shape::wall_run && brush.thickness_m <= 0) brush.thickness_m = Measures{}.wall_m;
    return brush;
}

namespace {

Brush of_shape(const Brush& brush, Shape shape, const Character& character, const Measures& agreed) {
    Brush out = brush;
    if (shape == Shape::outline) {
        out.points = base_of(brush);
        out.holes.clear(), out.corners.clear(), out.faces.clear();
        out.shape = shape;
        out.cells = {};
        if (brush.shape == Shape::body || brush.shape == Shape::mass)
            out.place.at = brush.place.to_level({0, 0, own_box(brush).low.z});
        return measured(out);
    }
    if (shape == Shape::wall_run) {
        out = has_points(brush.shape) && brush.shape != Shape::body && brush.shape != Shape::mass
                  ? brush
                  : boxed(brush);
        if (brush.shape == Shape::outline) {
            out.closed = true;
            out.holes.clear();
            out.thickness_m = agreed.wall_m;
        } else if (!has_points(out.shape) || out.points.empty()) {
            out.points = {{-out.size.x / 2, 0}, {out.size.x / 2, 0}};
            out.thickness_m = out.size.y;
        }
        out.shape = shape;
        return measured(out);
    }
    if (shape == Shape::body) {
        return as_body(brush).value_or(brush);
    }
    if (has_points(brush.shape)) out = boxed(brush);
    out.shape = shape;
    return with_fitting_values(out, character);
}

} // namespace

Brush with_shape(const Brush& brush, Shape shape, const Character& character, const Measures& agreed) {
    if (shape == brush.shape) return brush;
    Brush out = of_shape(brush, shape, character, agreed);
    return with_own_values(with_looks_of(std::move(out), brush));
}

Brush outline_through(std::vector<Vec3> places, double height_m) {
    double area = 0;
    for (size_t i = 0; i < places.size(); ++i) {
        const Vec3 &a = places[i], &b = places[(i + 1) % places.size()];
        area += a.x * b.y - a.y * b.x;
    }
    if (area < 0) std::reverse(places.begin(), places.end());
    Brush brush;
    brush.shape = Shape::outline;
    brush.place.at = taken_about_middle(places, brush.points);
    brush.place.at.z += std::min(0.0, height_m);
    brush.size.z = std::abs(height_m);
    return measured(brush);
}

Brush wall_through(const std::vector<Vec3>& places, bool closed, double thickness_m, double height_m) {
    Brush brush;
    brush.shape = Shape::wall_run;
    brush.closed = closed;
    brush.thickness_m = thickness_m;
    brush.place.at = taken_about_middle(places, brush.points);
    brush.place.at.z += std::min(0.0, height_m);
    brush.size.z = std::abs(height_m);
    return measured(brush);
}

} // namespace rubble::edit
