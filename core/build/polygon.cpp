#include "build/polygon.h"

#include <algorithm>

namespace rubble::build {

using geometry::Corner;
using geometry::PlaneRef;
using geometry::PlaneTable;
using geometry::Side;

Box3 box_of(const Polygon& polygon) {
    Vec3 low = polygon.edges[0].start.at, high = low;
    double error = 0;
    for (const auto& edge : polygon.edges) {
        low = glm::min(low, edge.start.at), high = glm::max(high, edge.start.at);
        error = std::max(error, double(edge.start.error));
    }
    constexpr double unit = geometry::ticks_per_metre;
    return Box3{low / unit, high / unit}.grown(error / unit + 1e-5);
}

CornerSides sides_of(const Polygon& polygon, PlaneRef plane, const PlaneTable& planes) {
    CornerSides out;
    planes.for_sides(
        plane, polygon.edges.size(), [&](size_t i) -> const Corner& { return polygon.edges[i].start; },
        [&](size_t, Side side) {
            out.of.push_back(side);
            out.front |= side == Side::front;
            out.back |= side == Side::back;
        });
    return out;
}

Halves split(const Polygon& polygon, const CornerSides& sides, PlaneRef by, const PlaneTable& planes) {
    Halves halves{{polygon.support, {}}, {polygon.support, {}}};
    const size_t n = polygon.edges.size();
    const auto add = [&](Polygon& part, Side own, size_t i, Side next) {
        if (sides.of[i] != own && sides.of[i] != Side::on) return;
        // From a corner on the plane the way leads along the plane if the next lies on the other side.
        const bool along = sides.of[i] == Side::on && next == -own;
        part.edges.push_back({polygon.edges[i].start, along ? by.id : polygon.edges[i].plane});
    };
    for (size_t i = 0; i < n; ++i) {
        const Side here = sides.of[i], next = sides.of[i + 1 < n ? i + 1 : 0];
        const auto& edge = polygon.edges[i];
        add(halves.front, Side::front, i, next);
        add(halves.back, Side::back, i, next);
        if (here == Side::on || next != -here) continue;
        const Corner corner = planes.meet(polygon.support.id, edge.plane, by.id);
        halves.front.edges.push_back({corner, here == Side::front ? by.id : edge.plane});
        halves.back.edges.push_back({corner, here == Side::back ? by.id : edge.plane});
    }
    return halves;
}

} // namespace rubble::build
