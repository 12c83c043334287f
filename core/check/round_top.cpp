#include "check/round_top.h"

#include <cmath>

#include "base/tolerance.h"
#include "check/flight.h"
#include "motion/step.h"

namespace rubble::check {

using geometry::ConvexArea;
using motion::Column;
using motion::HeightPlane;

namespace {

/// The heights of a body's bottom over a plane that it touches uphill.
HeightPlane feet_over(HeightPlane top, double radius) {
    top.c += radius * glm::length(top.slope);
    return top;
}

/// The gentlest plane over the ridge that two facets of a concave top share; none where that is one of
/// theirs. Every slope between those of the facets supports the top there.
std::optional<HeightPlane> over_ridge(const RoundTop::Facet& a, const RoundTop::Facet& b) {
    const Vec2 change = b.height.slope - a.height.slope;
    const double part = -glm::dot(a.height.slope, change) / glm::dot(change, change);
    if (!(part > 1e-3 && part < 1 - 1e-3) || !a.box.grown(tolerance::same_place_m).touches(b.box)) return {};
    int shared = 0;
    Vec2 at{0};
    for (Vec2 p : a.area)
        if (geometry::distance(b.area, p) < tolerance::same_place_m) ++shared, at = p;
    if (shared < 2) return {};
    const Vec2 slope = a.height.slope + change * part;
    return HeightPlane{slope, a.height.at(at) - glm::dot(slope, at)};
}

/// Ridges of bodies with more facets than this are so blunt that the facets' own planes tell the feet.
constexpr size_t k_most_ridged = 64;

std::vector<HeightPlane> planes_over_feet(const RoundTop& top) {
    std::vector<HeightPlane> out{{Vec2(0), top.highest}};
    for (const auto& facet : top.walked)
        if (std::find(out.begin(), out.end(), facet.feet) == out.end()) out.push_back(facet.feet);
    if (top.walked.size() + top.steep.size() > k_most_ridged) return out;
    for (size_t i = 0; i < top.walked.size(); ++i) {
        for (size_t k = i + 1; k < top.walked.size(); ++k)
            if (const auto plane = over_ridge(top.walked[i], top.walked[k]))
                out.push_back(feet_over(*plane, top.radius));
        for (const auto& steep : top.steep)
            if (const auto plane = over_ridge(top.walked[i], steep))
                out.push_back(feet_over(*plane, top.radius));
    }
    return out;
}

/// The walked facet nearest to a place, which most likely decides there.
const RoundTop::Facet& nearest_walked(const RoundTop& top, Vec2 p) {
    const RoundTop::Facet* best = &top.walked.front();
    double least = std::numeric_limits<double>::infinity();
    for (const auto& facet : top.walked) {
        const Vec2 out = (facet.box.low + facet.box.high) * 0.5 - p;
        if (glm::dot(out, out) < least) least = glm::dot(out, out), best = &facet;
    }
    return *best;
}

/// The part of an area where a plane stays below every walked facet's feet, raised by `by`.
ConvexArea below_walked(ConvexArea area, const RoundTop& top, const HeightPlane& plane, double by) {
    if (area.empty()) return area;
    area = where_above(area, nearest_walked(top, geometry::middle_of(area)).feet, plane, -by);
    for (const HeightPlane& feet : top.over_feet) {
        if (area.empty()) return area;
        area = where_above(area, feet, plane, -by);
    }
    return area;
}

} // namespace

ConvexArea where_above(const ConvexArea& area, const HeightPlane& upper, const HeightPlane& lower,
                       double by) {
    if (area.empty()) return {};
    const Vec2 slope = upper.slope - lower.slope;
    const double c = upper.c - lower.c - by, steep = glm::length(slope);
    if (steep < 1e-9) return c > 0 ? area : ConvexArea{};
    return geometry::clipped(area, {slope * (-c / (steep * steep)), slope / steep});
}

double RoundTop::feet_at(Vec2 p) const {
    double best = -std::numeric_limits<double>::infinity();
    const Box2 around = Box2{p, p}.grown(radius);
    for (const auto* facets : {&walked, &steep})
        for (const Facet& facet : *facets) {
            if (!facet.box.touches(around)) continue;
            const auto felt =
                geometry::range_over_disc(facet.area, p, radius, facet.height.slope, facet.height.c);
            if (felt) best = std::max(best, felt->high);
        }
    if (std::isfinite(best)) return best;
    return std::min(nearest_walked(*this, p).feet.at(p), highest);
}

bool RoundTop::has_level_part_at(double height) const {
    return std::abs(highest - height) < tolerance::same_height_m;
}

std::shared_ptr<const RoundTop> round_top_of(const motion::World& world, int column, const Character& c) {
    const auto& columns = world.columns();
    const auto cell = columns[size_t(column)].cell;
    RoundTop top;
    bool several = false;
    std::vector<Vec2> corners;
    for (int i = cell.first; i < cell.first + cell.count; ++i) {
        const Column& part = columns[size_t(i)];
        const bool walked = motion::is_ground(c, part);
        (walked ? top.walked : top.steep)
            .push_back({part.area, part.box, part.top, feet_over(part.top, c.radius_m)});
        top.highest = i == cell.first ? part.high : std::max(top.highest, part.high);
        several |= part.top != columns[size_t(cell.first)].top;
        if (!walked) continue;
        top.columns.push_back(i);
        corners.insert(corners.end(), part.area.begin(), part.area.end());
    }
    if (top.walked.empty() || !several) return nullptr;
    top.footprint = geometry::hull(std::move(corners));
    top.radius = c.radius_m;
    top.overhang = overhang_m(c);
    top.over_feet = planes_over_feet(top);
    return std::make_shared<const RoundTop>(std::move(top));
}

std::vector<ConvexArea> steep_places(const RoundTop& top, const ConvexArea& around) {
    std::vector<ConvexArea> out;
    const Box2 box = geometry::box_of(around);
    for (const auto& facet : top.steep) {
        if (!facet.box.grown(top.radius).touches(box)) continue;
        // Most are below the walked ones only beyond the places asked about: the nearest one says so.
        const auto& near = nearest_walked(top, (facet.box.low + facet.box.high) * 0.5);
        ConvexArea area = where_above(around, near.feet, facet.feet, tolerance::same_height_m);
        if (area.empty()) continue;
        area = geometry::common(area, geometry::grown_outside(facet.area, top.radius));
        area = below_walked(std::move(area), top, facet.feet, -tolerance::same_height_m);
        if (!area.empty()) out.push_back(std::move(area));
    }
    return out;
}

std::vector<ConvexArea> obstacles(const RoundTop& top, double least, const Column& column,
                                  const ConvexArea& grown, double height) {
    const double near = tolerance::same_height_m;
    if (column.high <= least + near || column.low >= top.highest + height) return {};
    ConvexArea under_head = grown;
    if (column.high >= least + height) { // a ceiling: only where it is lower than the head
        HeightPlane bottom = column.bottom;
        bottom.c -= top.radius * glm::length(bottom.slope);
        under_head = below_walked(std::move(under_head), top, bottom, height);
    }
    if (under_head.empty()) return {};
    const HeightPlane upper = feet_over(column.top, top.radius);
    const auto over = [&](const HeightPlane& feet) {
        ConvexArea area = where_above(under_head, upper, feet, near);
        return column.steep > 0 ? where_above(area, {Vec2(0), column.high}, feet, near) : area;
    };
    if (ConvexArea over_all = over({Vec2(0), top.highest});
        over_all.size() == under_head.size() &&
        geometry::area_of(over_all) > geometry::area_of(under_head) - 1e-9)
        return {over_all};
    std::vector<ConvexArea> out;
    for (const HeightPlane& feet : top.over_feet)
        if (ConvexArea area = over(feet); !area.empty()) out.push_back(std::move(area));
    return out;
}

RoundBody round_body_of(const motion::World& world, int first_column, double radius, double grown_by) {
    const auto& columns = world.columns();
    const auto cell = columns[size_t(first_column)].cell;
    RoundBody out;
    std::vector<Vec2> corners;
    const auto add = [](std::vector<HeightPlane>& planes, const HeightPlane& plane) {
        if (std::find(planes.begin(), planes.end(), plane) == planes.end()) planes.push_back(plane);
    };
    out.low = std::numeric_limits<double>::infinity(), out.high = -out.low;
    for (int i = cell.first; i < cell.first + cell.count; ++i) {
        const Column& part = columns[size_t(i)];
        out.low = std::min(out.low, part.low), out.high = std::max(out.high, part.high);
        add(out.over, feet_over(part.top, radius));
        HeightPlane bottom = part.bottom;
        bottom.c -= radius * glm::length(bottom.slope);
        add(out.under, bottom);
        corners.insert(corners.end(), part.area.begin(), part.area.end());
    }
    add(out.over, {Vec2(0), out.high});
    add(out.under, {Vec2(0), out.low});
    out.grown = geometry::grown_outside(geometry::hull(std::move(corners)), grown_by);
    return out;
}

namespace {

/// The plane that is lowest (`sign` 1) or highest (-1) at a place.
const HeightPlane& outermost(const std::vector<HeightPlane>& planes, Vec2 p, double sign) {
    const HeightPlane* best = &planes.front();
    double least = std::numeric_limits<double>::infinity();
    for (const HeightPlane& plane : planes)
        if (const double height = sign * plane.at(p); height < least) least = height, best = &plane;
    return *best;
}

/// The part of an area where the lowest of `upper` is above the highest of `lower` by more than `by`. Both
/// bend away from each other, so the part is convex and holds the whole of what its corners hold: the area is
/// cut along the two planes that decide at a corner, until no corner fails (cutting planes, after Kelley,
/// "The Cutting-Plane Method for Solving Convex Programs", 1960).
ConvexArea where_between(ConvexArea area, const std::vector<HeightPlane>& upper,
                         const std::vector<HeightPlane>& lower, double by) {
    for (size_t held = 0, i = 0; held < area.size(); ++i) {
        const Vec2 p = area[i % area.size()];
        const HeightPlane &high = outermost(upper, p, 1), &low = outermost(lower, p, -1);
        if (high.at(p) - low.at(p) > by - 1e-9) {
            ++held;
            continue;
        }
        ConvexArea rest = where_above(area, high, low, by);
        held = rest == area ? held + 1 : 0; // what is left of a corner may be too little to be cut off
        area = std::move(rest);
    }
    return area;
}

} // namespace

std::vector<ConvexArea> obstacles(const RoundTop& top, double least, const ConvexArea& within,
                                  const RoundBody& body, double height) {
    const double near = tolerance::same_height_m;
    if (body.high <= least + near || body.low >= top.highest + height) return {};
    const ConvexArea under_head =
        where_between(geometry::common(body.grown, within), top.over_feet, body.under, -height);
    if (under_head.empty()) return {};
    std::vector<ConvexArea> out;
    std::vector<HeightPlane> one(1);
    for (const HeightPlane& feet : top.over_feet) {
        one[0] = feet;
        if (where_between(under_head, top.over_feet, one, -near).empty()) continue; // nowhere the feet's
        ConvexArea area = where_between(under_head, body.over, one, near);
        if (area == under_head) return {std::move(area)}; // the others are parts of it
        if (!area.empty()) out.push_back(std::move(area));
    }
    return out;
}

ConvexArea shared_with_level(const RoundTop& top, const ConvexArea& plot, double height) {
    return below_walked(plot, top, {Vec2(0), height}, tolerance::same_height_m);
}

} // namespace rubble::check
