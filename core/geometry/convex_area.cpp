#include "geometry/convex_area.h"

#include <cmath>

#include "base/angle.h"
#include "base/tolerance.h"

namespace rubble::geometry {

double area_of(const ConvexArea& area) {
    double twice = 0;
    for (size_t i = 0; i < area.size(); ++i) twice += cross(area[i], area[(i + 1) % area.size()]);
    return twice / 2;
}

Box2 box_of(const ConvexArea& area) {
    Box2 box;
    for (Vec2 p : area) box.add(p);
    return box;
}

Vec2 middle_of(const ConvexArea& area) {
    Vec2 sum(0);
    for (Vec2 p : area) sum += p;
    return area.empty() ? sum : sum / double(area.size());
}

bool contains(const ConvexArea& area, Vec2 p, double tolerance) {
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 a = area[i], along = area[(i + 1) % area.size()] - a;
        if (cross(along, p - a) < -tolerance * glm::length(along)) return false;
    }
    return area.size() >= 3;
}

ConvexArea clipped(const ConvexArea& area, const HalfPlane& keep) {
    // A corner on the line up to rounding would come twice, and an edge as short as rounding looks anywhere.
    ConvexArea out;
    out.reserve(area.size() + 1);
    const auto doubled = [](Vec2 a, Vec2 b) {
        return std::abs(a.x - b.x) < tolerance::same_number && std::abs(a.y - b.y) < tolerance::same_number;
    };
    const auto add = [&](Vec2 p) {
        if (out.empty() || !doubled(out.back(), p)) out.push_back(p);
    };
    double deepest = 0;
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 a = area[i], b = area[(i + 1) % area.size()];
        const double da = keep.distance(a), db = keep.distance(b);
        deepest = std::max(deepest, da);
        if (da >= 0) add(a);
        if ((da > 0 && db < 0) || (da < 0 && db > 0)) add(a + (b - a) * (da / (da - db)));
    }
    while (out.size() > 1 && doubled(out.back(), out.front())) out.pop_back();
    if (deepest < tolerance::same_place_m || out.size() < 3) return {};
    return out;
}

ConvexArea common(const ConvexArea& a, const ConvexArea& b) {
    ConvexArea out = a;
    for (size_t i = 0; i < b.size() && !out.empty(); ++i) {
        const Vec2 along = b[(i + 1) % b.size()] - b[i];
        const double length = glm::length(along);
        if (length > 0) out = clipped(out, {b[i], left_of(along) / length});
    }
    return b.size() < 3 ? ConvexArea{} : out;
}

ConvexArea hull(std::vector<Vec2> points) {
    std::sort(points.begin(), points.end(),
              [](Vec2 a, Vec2 b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
    ConvexArea out;
    auto extend = [&](Vec2 p, size_t keep) {
        while (out.size() >= keep + 2) {
            const Vec2 a = out[out.size() - 2], b = out.back();
            const double length = glm::length(p - a);
            if (cross(b - a, p - a) > tolerance::same_place_m * 1e-3 * length) break;
            out.pop_back();
        }
        out.push_back(p);
    };
    for (Vec2 p : points) extend(p, 0);
    const size_t lower = out.size();
    for (size_t i = points.size(); i-- > 1;) extend(points[i - 1], lower - 1);
    if (out.size() > 1) out.pop_back();
    return out.size() < 3 ? ConvexArea{} : out;
}

namespace {

/// Calls `corner(p, from_direction, turn)` for every point with the outward direction of the edge before it
/// and the angle (radians) by which the next edge's is turned against it.
template <class F> void for_each_corner(const ConvexArea& area, F corner) {
    const size_t n = area.size();
    for (size_t i = 0; i < n; ++i) {
        const Vec2 before = glm::normalize(area[i] - area[(i + n - 1) % n]);
        const Vec2 after = glm::normalize(area[(i + 1) % n] - area[i]);
        const double turn = std::atan2(cross(before, after), glm::dot(before, after));
        corner(area[i], -left_of(before), std::max(turn, 0.0));
    }
}

Vec2 turned(Vec2 v, double rad) {
    return {v.x * std::cos(rad) - v.y * std::sin(rad), v.x * std::sin(rad) + v.y * std::cos(rad)};
}

} // namespace

ConvexArea grown_outside(const ConvexArea& area, double r) {
    if (r <= 0) return area;
    ConvexArea out;
    for_each_corner(area, [&](Vec2 p, Vec2 outward, double turn) {
        const int parts = std::max(1, int(std::ceil(degrees(turn) / tolerance::corner_step_deg - 1e-9)));
        const double half = turn / parts / 2, reach = r / std::cos(half);
        for (int k = 0; k < parts; ++k) out.push_back(p + turned(outward, (2 * k + 1) * half) * reach);
    });
    return out;
}

ConvexArea grown_inside(const ConvexArea& area, double r) {
    if (r <= 0) return area;
    ConvexArea out;
    for_each_corner(area, [&](Vec2 p, Vec2 outward, double turn) {
        const int parts = std::max(1, int(std::ceil(degrees(turn) / tolerance::corner_step_deg - 1e-9)));
        for (int k = 0; k <= parts; ++k) out.push_back(p + turned(outward, turn * k / parts) * r);
    });
    return out;
}

Vec2 nearest(const ConvexArea& area, Vec2 p) {
    Vec2 best = p;
    double best_d = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 a = area[i], along = area[i + 1 < area.size() ? i + 1 : 0] - a;
        if (area.size() > 2 && cross(along, p - a) >= 0) continue; // only edges that face the point
        const double length2 = glm::dot(along, along);
        const double t = length2 > 0 ? std::clamp(glm::dot(p - a, along) / length2, 0.0, 1.0) : 0;
        const Vec2 q = a + along * t;
        const double d = glm::dot(p - q, p - q);
        if (d < best_d) best_d = d, best = q;
    }
    return best;
}

double distance(const ConvexArea& area, Vec2 p) { return glm::length(p - nearest(area, p)); }

NearestPair nearest(const ConvexArea& a, const ConvexArea& b) {
    const Box2 box_a = box_of(a), box_b = box_of(b);
    if (box_a.touches(box_b))
        if (const ConvexArea both = common(a, b); !both.empty()) {
            const Vec2 m = middle_of(both);
            return {m, m, 0};
        }
    NearestPair best{Vec2(0), Vec2(0), std::numeric_limits<double>::infinity()};
    auto offer = [&](Vec2 on_a, Vec2 on_b) {
        const double d = glm::length(on_a - on_b);
        if (d < best.distance) best = {on_a, on_b, d};
    };
    // A corner farther from the other's box than the best pair cannot be nearer to the other.
    auto may_be_nearer = [&](Vec2 p, const Box2& other) {
        const Vec2 out = glm::max(glm::max(other.low - p, p - other.high), Vec2(0));
        return glm::dot(out, out) <= best.distance * best.distance;
    };
    for (Vec2 p : a)
        if (may_be_nearer(p, box_b)) offer(p, nearest(b, p));
    for (Vec2 p : b)
        if (may_be_nearer(p, box_a)) offer(nearest(a, p), p);
    return best;
}

std::optional<Range> range_over_disc(const ConvexArea& area, Vec2 centre, double r, Vec2 slope, double c) {
    // Most areas lie wholly beyond the disc on one side.
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 along = area[i + 1 < area.size() ? i + 1 : 0] - area[i];
        const double outside = -cross(along, centre - area[i]);
        if (outside > 0 && outside * outside > r * r * glm::dot(along, along)) return {};
    }
    std::optional<Range> range;
    auto offer = [&](Vec2 p) {
        const double value = glm::dot(slope, p) + c;
        if (!range) range = Range{value, value, p, p};
        if (value < range->low) range->low = value, range->low_at = p;
        if (value > range->high) range->high = value, range->high_at = p;
    };
    // A linear function takes its extremes on the boundary: on edge parts inside the disc or, where the
    // disc's own extreme points lie in the area, there.
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 a = area[i], along = area[(i + 1) % area.size()] - a, out = a - centre;
        const double qa = glm::dot(along, along), qb = glm::dot(out, along), qc = glm::dot(out, out) - r * r;
        const double disc = qb * qb - qa * qc;
        if (disc < 0 || qa == 0) continue;
        const double root = std::sqrt(disc);
        const double t0 = std::max(0.0, (-qb - root) / qa), t1 = std::min(1.0, (-qb + root) / qa);
        if (t0 > t1) continue;
        offer(a + along * t0), offer(a + along * t1);
    }
    const double steep = glm::length(slope);
    const Vec2 uphill = steep > 0 ? slope / steep : Vec2(1, 0);
    for (double sign : {1.0, -1.0})
        if (const Vec2 p = centre + uphill * (sign * r); contains(area, p)) offer(p);
    return range;
}

namespace {

/// The part of the way on which a moving point is within `r` of a fixed one.
std::optional<std::pair<double, double>> circle_passage(Vec2 from, Vec2 by, Vec2 centre, double r) {
    const Vec2 out = from - centre;
    const double a = glm::dot(by, by), b = glm::dot(out, by), c = glm::dot(out, out) - r * r;
    if (a == 0) {
        if (c >= 0) return {};
        return {{-std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()}};
    }
    const double disc = b * b - a * c;
    if (disc <= 0) return {};
    const double root = std::sqrt(disc);
    return {{(-b - root) / a, (-b + root) / a}};
}

} // namespace

namespace {

/// The part of a moving point's way that meets some limits, each a value that must not be above 0 and
/// changes evenly.
struct Window {
    double enter = -std::numeric_limits<double>::infinity(), leave = -enter;
    Vec2 normal{1, 0}; ///< of the limit met last before entering

    void limit(double value, double speed, Vec2 direction) {
        if (speed < 0) {
            if (const double at = -value / speed; at > enter) enter = at, normal = direction;
        } else if (speed > 0) {
            leave = std::min(leave, -value / speed);
        } else if (value > 0) {
            leave = -std::numeric_limits<double>::infinity();
        }
    }
};

} // namespace

std::optional<DiscPassage> disc_passage(const ConvexArea& area, Vec2 from, Vec2 by, double r) {
    // Most areas lie wholly to one side of the way.
    const size_t n = area.size();
    for (size_t i = 0; i < n; ++i) {
        const Vec2 along = area[i + 1 < n ? i + 1 : 0] - area[i];
        const double nearer = std::max(cross(along, from - area[i]), cross(along, from + by - area[i]));
        if (nearer < 0 && nearer * nearer > r * r * glm::dot(along, along)) return {};
    }
    // The grown shape is the union of the area pushed out along each edge (with the area itself) and a disc
    // about each point; the way's common part with a convex shape is one interval, the hull of the parts.
    std::optional<DiscPassage> passage;
    auto offer = [&](double enter, double leave, Vec2 normal) {
        if (enter >= leave) return;
        if (!passage) {
            passage = DiscPassage{enter, leave, normal};
            return;
        }
        if (enter < passage->enter) passage->enter = enter, passage->normal = normal;
        passage->leave = std::max(passage->leave, leave);
    };
    Window inside; // the area itself
    for (size_t i = 0; i < n; ++i) {
        const Vec2 a = area[i], along = area[i + 1 < n ? i + 1 : 0] - a, rel = from - a;
        if (const auto circle = circle_passage(from, by, a, r)) {
            const double t = std::isfinite(circle->first) ? circle->first : 0;
            const Vec2 out = rel + by * t;
            const double length = glm::length(out);
            offer(circle->first, circle->second, length > 0 ? out / length : Vec2(1, 0));
        }
        const double length = glm::length(along);
        if (length == 0) continue;
        const Vec2 unit = along / length, outward = -left_of(unit);
        const double off = glm::dot(rel, outward), off_speed = glm::dot(by, outward);
        inside.limit(off, off_speed, outward);
        // Along the edge is not inside.
        if (off_speed == 0 && off >= 0) inside.leave = -std::numeric_limits<double>::infinity();
        if (r <= 0) continue;
        // The strip of the edge: along it between its ends, across it from 0 to r.
        Window strip;
        strip.normal = outward;
        strip.limit(off - r, off_speed, outward);
        strip.limit(-off, -off_speed, -outward);
        if (strip.enter >= strip.leave) continue;
        const double on = glm::dot(rel, unit), on_speed = glm::dot(by, unit);
        strip.limit(-on, -on_speed, -unit);
        strip.limit(on - length, on_speed, unit);
        offer(strip.enter, strip.leave, strip.normal);
    }
    if (n >= 3) offer(inside.enter, inside.leave, inside.normal);
    return passage;
}

} // namespace rubble::geometry
