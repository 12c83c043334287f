#include "tools/snap.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "edit/brushes.h"
#include "level/brush_shape.h"
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

std::vector<const Item*> brushes_near(const Session& session, const Pointer& pointer) {
    constexpr double k_beside_px = 6;
    const Built& built = session.built();
    std::vector<const Item*> out;
    if (!built.surface || !built.solid) return out;
    auto add = [&](const std::optional<Hit>& hit) {
        if (!hit || size_t(hit->brush) >= built.solid->brushes.size()) return;
        const Item* item = find_item(session.level(), built.solid->brushes[size_t(hit->brush)]->item);
        if (item && item->brush() && std::find(out.begin(), out.end(), item) == out.end())
            out.push_back(item);
    };
    add(pointer.hit);
    // Aslant: straight beside a corner lie the edges themselves.
    for (const double x : {-k_beside_px, k_beside_px})
        for (const double y : {-k_beside_px, k_beside_px}) {
            const QPointF off(x, y);
            add(pick(*built.surface, built.hidden, pointer.camera.ray(pointer.screen + off), pointer.cut_z));
        }
    return out;
}

std::optional<CaughtCorner> caught_corner(const Session& session, const Pointer& pointer,
                                          const ItemId& except) {
    constexpr double k_catch_px = 10, k_px_per_m = 0.002;
    std::optional<CaughtCorner> best;
    double least = k_catch_px;
    for (const Item* item : brushes_near(session, pointer)) {
        if (item->id == except) continue;
        for (const Vec3& corner : corners_of(*item->brush())) {
            const auto at = pointer.camera.to_screen(corner);
            if (!at) continue;
            const double depth = glm::dot(corner - pointer.camera.eye(), pointer.camera.forward());
            const double far =
                std::hypot(at->x() - pointer.screen.x(), at->y() - pointer.screen.y()) + k_px_per_m * depth;
            if (far < least) least = far, best = CaughtCorner{item->id, corner};
        }
    }
    return best;
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
