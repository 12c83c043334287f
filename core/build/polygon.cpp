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
        error = std::max(error, edge.start.error);
    }
    constexpr double unit = geometry::ticks_per_metre;
    return Box3{low / unit, high / unit}.grown(error / unit + 1e-5);
}

CornerSides sides_of(const Polygon& polygon, PlaneRef plane, const PlaneTable& planes) {
    CornerSides out;
    for (const auto& edge : polygon.edges) {
        out.of.push_back(planes.side(edge.start, plane));
        out.front |= out.of.back() == Side::front;
        out.back |= out.of.back() == Side::back;
    }
    return out;
}

Halves split(const Polygon& polygon, const CornerSides& sides, PlaneRef by, const PlaneTable& planes) {
    Halves halves{{polygon.support, {}}, {polygon.support, {}}};
    const size_t n = polygon.edges.size();
    auto add = [&](Polygon& part, Side own, size_t i) {
        const Side here = sides.of[i], next = sides.of[(i + 1) % n];
        const auto& edge = polygon.edges[i];
        if (here == own || here == Side::on) {
            // From a corner on the plane the way leads along the plane if the next lies on the other side.
            const bool along = here == Side::on && next == -own;
            part.edges.push_back({along ? by.id : edge.plane, edge.start});
        }
        if ((here == Side::front && next == Side::back) || (here == Side::back && next == Side::front)) {
            const Corner corner = planes.meet(polygon.support.id, edge.plane, by.id);
            part.edges.push_back({here == own ? by.id : edge.plane, corner});
        }
    };
    for (size_t i = 0; i < n; ++i) add(halves.front, Side::front, i), add(halves.back, Side::back, i);
    return halves;
}

} // namespace rubble::build
