#include "tools/snap.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "edit/brushes.h"
#include "motion/world.h"

namespace rubble::app {

namespace {

/// Edges of items farther away than this do not catch (metres).
constexpr double k_near_m = 8;

} // namespace

Snapped snap(const Level& level, const std::vector<ItemId>& moving, const Vec3& at, double grid,
             double catch_m) {
    Snapped out;
    out.at = edit::snapped(at, grid);
    std::array<double, 2> best{};
    for (int axis = 0; axis < 2; ++axis)
        best[size_t(axis)] = std::min(catch_m, std::abs(out.at[axis] - at[axis]));
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.brush() || std::find(moving.begin(), moving.end(), item.id) != moving.end()) return;
        const Box3 box = box_of(item);
        for (int axis = 0; axis < 2; ++axis) {
            const int other = 1 - axis;
            if (at[other] < box.low[other] - k_near_m || at[other] > box.high[other] + k_near_m) continue;
            for (double edge : {box.low[axis], box.high[axis]}) {
                const double off = std::abs(edge - at[axis]);
                if (off >= best[size_t(axis)]) continue;
                best[size_t(axis)] = off;
                out.at[axis] = edge;
                out.edge[size_t(axis)] = edge;
            }
        }
    });
    return out;
}

double snap_along(const Level& level, const std::vector<ItemId>& moving, const Vec3& near, int axis,
                  double value, double grid, double catch_m) {
    double out = edit::snapped(value, grid);
    double best = std::min(catch_m, std::abs(out - value));
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.brush() || std::find(moving.begin(), moving.end(), item.id) != moving.end()) return;
        const Box3 box = box_of(item);
        for (int other = 0; other < 3; ++other)
            if (other != axis &&
                (near[other] < box.low[other] - k_near_m || near[other] > box.high[other] + k_near_m))
                return;
        for (double edge : {box.low[axis], box.high[axis]})
            if (const double off = std::abs(edge - value); off < best) best = off, out = edge;
    });
    return out;
}

bool seen_from_the_side(Session& session, const Pointer& pointer) {
    const bool from_the_side = pointer.camera.flat() && pointer.camera.kind != Camera::Kind::plan;
    if (from_the_side)
        emit session.message(
            Session::tr("There is no ground to draw on in this view: draw in the space or the plan view"));
    return from_the_side;
}

std::optional<Vec3> foot_of_wall(const Session& session, const Hit& hit) {
    const Character c = session.character();
    const auto& check = session.built().check;
    if (!check || hit.normal.z >= std::cos(radians(c.max_slope_deg)) || glm::length(flat(hit.normal)) < 1e-6)
        return {};
    constexpr double k_deepest_m = 1000;
    const Vec2 before = flat(hit.at) + glm::normalize(flat(hit.normal)) * (c.radius_m + 0.05);
    const auto support =
        motion::support_below(*check->world, {raised(before, hit.at.z), c.radius_m / 2, 0}, 0, k_deepest_m);
    if (!support) return {};
    return raised(before, support->height);
}

} // namespace rubble::app
