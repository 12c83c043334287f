#include "tools/cut_catch.h"

#include <algorithm>
#include <array>
#include <limits>

#include "level/brush_shape.h"
#include "level/item_search.h"
#include "view/ray_box.h"

namespace rubble::app {

namespace {

constexpr double k_cut_catch_px = 6;
constexpr double k_behind_m = 0.05; ///< an outline lies on what it cuts

/// How far the pointer's ray gets; no limit where it meets nothing.
double reach_of(const Pointer& pointer) {
    return pointer.hit ? pointer.hit->along + k_behind_m : std::numeric_limits<double>::infinity();
}

/// How near the pointer an edge of the brush's own box is that is not behind what the pointer meets.
double nearest_edge_px(const Pointer& pointer, const Brush& brush) {
    const Box3 box = own_box(brush);
    const auto corner = [&](int i) {
        return brush.place.to_level(
            {i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y, i & 4 ? box.high.z : box.low.z});
    };
    double best = std::numeric_limits<double>::infinity();
    for (int a = 0; a < 8; ++a)
        for (const int bit : {1, 2, 4}) {
            if (a & bit) continue;
            const Vec3 from = corner(a), to = corner(a | bit), way = to - from;
            const auto p = pointer.camera.to_screen(from), q = pointer.camera.to_screen(to);
            const double length = glm::length(way);
            if (!p || !q || length < 1e-9) continue;
            const double off = distance(QLineF(*p, *q), pointer.screen);
            if (off >= best) continue;
            const double t = std::clamp(nearest_along(pointer.ray, from, way / length), 0.0, length);
            const Vec3 at = from + way * (t / length);
            if (glm::dot(at - pointer.ray.from, pointer.ray.direction) <= reach_of(pointer)) best = off;
        }
    return best;
}

} // namespace

std::optional<double> entry_into(const Ray& ray, const Brush& brush) {
    const Vec3 from = brush.place.to_own(ray.from);
    const Ray own{from, brush.place.to_own(ray.from + ray.direction) - from};
    return entry_of(own, inverse_way(own), own_box(brush));
}

std::optional<ItemId> cut_under(const Session& session, const Pointer& pointer) {
    for (const ItemId& id : session.selection()) {
        const Item* item = find_item(session.level(), id);
        const Brush* brush = item ? item->brush() : nullptr;
        if (!brush || brush->effect != Effect::cut) continue;
        if (const auto enters = entry_into(pointer.ray, *brush); enters && *enters <= reach_of(pointer))
            return id;
    }
    const Built& built = session.built();
    if (!built.solid) return {};
    std::optional<ItemId> best;
    double least = k_cut_catch_px;
    for (size_t i = 0; i < built.solid->brushes.size(); ++i) {
        const build::BrushSolid& solid = *built.solid->brushes[i];
        if (solid.effect != Effect::cut || (i < built.hidden.size() && built.hidden[i])) continue;
        const Item* item = find_item(session.level(), solid.item);
        if (!item || !item->brush()) continue;
        const double off = nearest_edge_px(pointer, *item->brush());
        if (off < least && !is_locked(session.level(), solid.item)) least = off, best = solid.item;
    }
    return best;
}

} // namespace rubble::app
