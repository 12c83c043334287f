#include "level/neighbours.h"
#include "base/tolerance.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace rubble {

namespace {

template <class F> void for_each_fill(const Level& level, const std::vector<ItemId>& moving, F visit) {
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.brush() || item.brush()->effect == Effect::cut) return;
        if (std::find(moving.begin(), moving.end(), item.id) == moving.end()) visit(item, box_of(item));
    });
}

double apart(const Box3& a, const Box3& b, int axis) {
    return std::max({0.0, a.low[axis] - b.high[axis], b.low[axis] - a.high[axis]});
}

} // namespace

std::vector<Neighbour> neighbours_of(const Level& level, const std::vector<ItemId>& moving, const Box3& box,
                                     double within_m) {
    std::array<std::vector<Neighbour>, 6> nearest; // none or one
    for_each_fill(level, moving, [&](const Item& item, const Box3& other) {
        for (int axis = 0; axis < 3; ++axis) {
            Vec3 middle(0);
            bool beside = true;
            for (int across = 0; across < 3; ++across) {
                if (across == axis) continue;
                const double low = std::max(box.low[across], other.low[across]),
                             high = std::min(box.high[across], other.high[across]);
                beside &= high - low > tolerance::touching_m;
                middle[across] = (low + high) / 2;
            }
            if (!beside) continue;
            for (const int way : {-1, 1}) {
                const double from = way > 0 ? box.high[axis] : box.low[axis],
                             to = way > 0 ? other.low[axis] : other.high[axis], gap = (to - from) * way;
                if (gap <= tolerance::one_plane_m || gap > within_m) continue;
                auto& place = nearest[size_t(2 * axis + (way > 0))];
                if (!place.empty() && place[0].gap_m <= gap) continue;
                Neighbour found{item.id, axis, way, gap, middle, middle};
                found.from[axis] = from, found.to[axis] = to;
                place = {found};
            }
        }
    });
    std::vector<Neighbour> out;
    for (const auto& place : nearest) out.insert(out.end(), place.begin(), place.end());
    return out;
}

std::vector<EqualEdge> equal_edges(const Level& level, const std::vector<ItemId>& moving, const Box3& box,
                                   double within_m) {
    struct Found {
        double far = 0;
        std::vector<EqualEdge> edge; // none or one
    };
    std::array<Found, 6> best;
    for_each_fill(level, moving, [&](const Item& item, const Box3& other) {
        const double far = apart(box, other, 0) + apart(box, other, 1) + apart(box, other, 2);
        if (far > within_m) return;
        for (size_t side = 0; side < 6; ++side) {
            const int axis = int(side / 2);
            const double at = side % 2 ? box.high[axis] : box.low[axis];
            if (std::abs(other.low[axis] - at) > tolerance::one_plane_m &&
                std::abs(other.high[axis] - at) > tolerance::one_plane_m)
                continue;
            // What it stands on or under is no surprise.
            if (axis == 2 && apart(box, other, 0) + apart(box, other, 1) == 0) continue;
            if (!best[side].edge.empty() && best[side].far <= far) continue;
            best[side] = {far, {EqualEdge{item.id, axis, at, other}}};
        }
    });
    std::vector<EqualEdge> out;
    for (const Found& found : best) out.insert(out.end(), found.edge.begin(), found.edge.end());
    return out;
}

} // namespace rubble
