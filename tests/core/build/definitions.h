#pragma once

#include <array>
#include <vector>

#include "base/angle.h"
#include "build/surface.h"
#include "core/random.h"
#include "level/brush_shape.h"
#include "level/order.h"

namespace rubble::test {

// What brushes are by their own definitions, apart from all code that builds them.

/// Whether a place of the base, scaled to a circle of radius 1, lies in the regular polygon within it.
inline bool in_polygon(Vec2 p, int sides, double within) {
    for (int side = 0; side < sides; ++side) {
        const auto [c, s] = cos_sin(360.0 * side / sides);
        if (c * p.x + s * p.y >= within * std::cos(radians(180.0 / sides))) return false;
    }
    return true;
}

/// Whether a place lies in one of the sectors of curved stairs, `p` scaled to a circle of radius 1.
inline bool in_curved_stairs(const Brush& brush, Vec2 p, double z) {
    const double each = brush.angle_deg / brush.steps, rise = brush.size.z / brush.steps;
    double angle = degrees(std::atan2(p.y, p.x));
    if (angle < 0) angle += 360;
    for (; angle < brush.angle_deg; angle += 360) {
        const int step = int(angle / each);
        const auto [c, s] = cos_sin((step + 0.5) * each);
        const double out = c * p.x + s * p.y, chord = std::cos(radians(each / 2));
        const double top = rise * (step + 1);
        const double low = brush.angle_deg > 360 ? std::max(0.0, top - std::max(brush.thickness_m, rise)) : 0;
        if (out < chord && out > chord * brush.inner_part && z > low && z < top) return true;
    }
    return false;
}

/// Whether a place of the plane lies in a ring, by how often a ray from it crosses the ring.
inline bool in_ring(const std::vector<Vec2>& ring, Vec2 p) {
    bool inside = false;
    for (size_t i = 0, k = ring.size() - 1; i < ring.size(); k = i++)
        if ((ring[i].y > p.y) != (ring[k].y > p.y) &&
            p.x < (ring[k].x - ring[i].x) * (p.y - ring[i].y) / (ring[k].y - ring[i].y) + ring[i].x)
            inside = !inside;
    return inside;
}

/// Whether a place is in matter, straight from the ordered brushes.
inline bool in_matter(const std::vector<OrderedBrush>& brushes, const Vec3& p) {
    for (size_t i = brushes.size(); i-- > 0;) {
        const Brush& brush = *brushes[i].brush;
        const Vec3 own = brush.place.to_own(p);
        const Vec2 scaled(2 * own.x / brush.size.x, 2 * own.y / brush.size.y);
        const double up = own.z / brush.size.z, along = own.x / brush.size.x + 0.5;
        bool inside = up > 0 && up < 1 &&
                      (brush.shape == Shape::outline || (std::abs(scaled.x) < 1 && std::abs(scaled.y) < 1));
        switch (brush.shape) {
        case Shape::cylinder:
            inside = inside && in_polygon(scaled, brush.sides, 1);
            break;
        case Shape::cone:
            inside = inside && in_polygon(scaled, brush.sides, 1 - up);
            break;
        case Shape::ramp:
            inside = inside && up < along;
            break;
        case Shape::stairs:
            inside = inside && up < (std::floor(along * brush.steps) + 1) / brush.steps;
            break;
        case Shape::curved_stairs:
            inside = inside && in_curved_stairs(brush, scaled, own.z);
            break;
        case Shape::arch: // flat ones only
            inside = inside && (std::abs(own.x) > brush.size.x / 2 - brush.thickness_m ||
                                own.z > brush.size.z - brush.thickness_m);
            break;
        case Shape::outline:
            inside = inside && in_ring(brush.points, {own.x, own.y});
            break;
        default:
            break;
        }
        if (inside) return brush.effect == Effect::fill;
    }
    return false;
}

/// A brush of any shape that `in_matter` knows.
inline Brush any_brush(Random& random) {
    constexpr std::array shapes{Shape::box,    Shape::ramp,          Shape::cylinder, Shape::cone,
                                Shape::stairs, Shape::curved_stairs, Shape::arch,     Shape::outline};
    Brush brush;
    brush.shape = shapes[size_t(random.whole(0, int(shapes.size()) - 1))];
    brush.sides = random.whole(least_sides, 24);
    brush.steps = random.whole(2, 9);
    brush.effect = random.chance(0.3) ? Effect::cut : Effect::fill;
    brush.size = {random.stepped(0.5, 4, 0.5), random.stepped(0.5, 4, 0.5), random.stepped(0.25, 3, 0.25)};
    brush.thickness_m = std::min(brush.size.x, brush.size.z) / 5;
    brush.arch = ArchKind::flat;
    brush.angle_deg = brush.steps * random.stepped(15, 75, 15);
    brush.inner_part = random.stepped(0, 0.8, 0.2);
    if (brush.shape == Shape::outline) {
        for (int i = 0, n = random.whole(3, 9); i < n; ++i) {
            const auto [c, s] = cos_sin(360.0 * i / n);
            const double r = random.between(0.5, 2.5);
            brush.points.push_back({c * r, s * r});
        }
        brush = measured(brush);
    }
    return brush;
}

/// Whether two surfaces are the same to the last tick.
inline bool same(const build::Surface& a, const build::Surface& b) {
    if (a.brushes.size() != b.brushes.size()) return false;
    for (size_t i = 0; i < a.brushes.size(); ++i) {
        const build::BrushSurface &p = *a.brushes[i], &q = *b.brushes[i];
        if (p.size() != q.size()) return false;
        for (size_t k = 0; k < p.size(); ++k) {
            if (p[k]->points != q[k]->points || p[k]->corners != q[k]->corners ||
                p[k]->faces.size() != q[k]->faces.size())
                return false;
            for (size_t f = 0; f < p[k]->faces.size(); ++f) {
                const build::SurfaceFace &v = p[k]->faces[f], &w = q[k]->faces[f];
                if (v.first != w.first || v.count != w.count || v.normal != w.normal || v.side != w.side ||
                    v.material != w.material)
                    return false;
            }
        }
    }
    return true;
}

} // namespace rubble::test
