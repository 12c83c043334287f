#include "motion/column.h"

#include <cmath>

#include "base/angle.h"
#include "base/tolerance.h"

namespace rubble::motion {

using geometry::ConvexArea;
using geometry::HalfPlane;

namespace {

HeightPlane height_of(const geometry::HalfSpace& plane) {
    HeightPlane height;
    if (plane.normal.x != 0 || plane.normal.y != 0)
        height.slope = -Vec2(plane.normal.x, plane.normal.y) / plane.normal.z;
    height.c = -plane.d / plane.normal.z;
    return height;
}

/// The half plane where `height` is above (`sign` 1) or below (-1) `limit`; nothing for level heights.
HalfPlane half_plane(const HeightPlane& height, double limit, double sign) {
    const double steep = glm::length(height.slope);
    const Vec2 inward = height.slope * (sign / steep);
    return {inward * (sign * (limit - height.c) / steep), inward};
}

ConvexArea limited(ConvexArea area, const HeightPlane& height, double limit, double sign) {
    if (area.empty()) return area;
    if (height.level()) return sign * (height.c - limit) > 0 ? area : ConvexArea{};
    return geometry::clipped(area, half_plane(height, limit, sign));
}

ConvexArea projected(const geometry::ConvexCell::Loop& loop) {
    std::vector<Vec2> points;
    for (const Vec3& p : loop) points.push_back(flat(p));
    return geometry::hull(std::move(points));
}

} // namespace

std::optional<geometry::Range> Column::over_disc(Vec2 centre, double r) const {
    if (!box.grown(r).contains(centre)) return {};
    if (simple()) {
        if (geometry::distance(area, centre) >= r) return {};
        return geometry::Range{bottom.c, top.c, centre, centre};
    }
    geometry::Range range{bottom.c, top.c, centre, centre};
    if (!bottom.level()) {
        const auto lower = geometry::range_over_disc(area, centre, r, bottom.slope, bottom.c);
        if (!lower) return {};
        range.low = lower->low, range.low_at = lower->low_at;
    }
    if (!top.level()) {
        const auto upper = geometry::range_over_disc(area, centre, r, top.slope, top.c);
        if (!upper) return {};
        range.high = upper->high, range.high_at = upper->high_at;
    }
    return range;
}

ConvexArea Column::between(double above, double below) const {
    if (high <= above || low >= below) return {};
    return limited(limited(area, top, above, 1), bottom, below, -1);
}

void completed(Column& column) {
    column.steep = glm::length(column.top.slope);
    column.slope_deg = degrees(std::atan(column.steep));
    column.low = std::numeric_limits<double>::infinity(), column.high = -column.low;
    column.box = {};
    for (Vec2 p : column.area) {
        column.low = std::min(column.low, column.bottom.at(p));
        column.high = std::max(column.high, column.top.at(p));
        column.box.add(p);
    }
}

Column moved(Column column, const Vec3& by) {
    for (Vec2& corner : column.area) corner += flat(by);
    for (HeightPlane* plane : {&column.top, &column.bottom})
        plane->c += by.z - glm::dot(plane->slope, flat(by));
    column.low += by.z, column.high += by.z;
    column.box.low += flat(by), column.box.high += flat(by);
    return column;
}

std::vector<Column> columns_of(const geometry::ConvexCell& cell, int source) {
    struct Lid {
        HeightPlane height;
        ConvexArea area;
        Box2 box;
    };
    std::vector<Lid> tops, bottoms;
    for (const auto& face : cell.faces) {
        if (std::abs(face.plane.normal.z) < tolerance::carries_no_height) continue;
        Lid lid{height_of(face.plane), projected(face.loop), {}};
        if (lid.area.empty()) continue;
        lid.box = geometry::box_of(lid.area);
        // A level face has its corners' own height, free of the rounding in its plane.
        if (lid.height.level()) lid.height.c = face.loop[0].z;
        (face.plane.normal.z > 0 ? tops : bottoms).push_back(std::move(lid));
    }
    std::vector<Column> columns;
    for (const Lid& top : tops)
        for (const Lid& bottom : bottoms) {
            if (!top.box.touches(bottom.box)) continue;
            Column column;
            column.area = tops.size() == 1      ? bottom.area
                          : bottoms.size() == 1 ? top.area
                                                : geometry::common(top.area, bottom.area);
            if (column.area.empty()) continue;
            column.top = top.height, column.bottom = bottom.height;
            column.source = source;
            completed(column);
            columns.push_back(std::move(column));
        }
    return columns;
}

} // namespace rubble::motion
