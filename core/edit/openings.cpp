#include "edit/openings.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>
#include <unordered_set>

#include "base/angle.h"
#include "edit/body.h"
#include "edit/items.h"
#include "level/brush_shape.h"
#include "level/turning.h"

namespace rubble::edit {

namespace {

/// A cut reaches out of the wall on both sides, so that nothing of its faces is left.
constexpr double k_beyond_m = 0.05;
constexpr int k_arch_segments = 12;

double to_tenths(double metres) { return std::ceil(metres * 10 - 1e-9) / 10; }

/// A placement as it was about one host, about the host where that is now.
Placement taken_along(const Placement& place, const Placement& host_before, const Placement& host_now) {
    Placement out = place;
    out.at = host_now.to_level(host_before.to_own(place.at));
    if (!place.rotation && !host_before.rotation && !host_now.rotation) {
        out.turn_deg = std::remainder(place.turn_deg + host_now.turn_deg - host_before.turn_deg, 360.0);
        return out;
    }
    const Rotation was = rotation_of(host_before), back{-was[0], -was[1], -was[2], was[3]};
    out.rotation = turned_by(rotation_of(host_now), turned_by(back, rotation_of(place)));
    out.turn_deg = 0; // is in it
    return out;
}

/// An upright profile with a round top, drawn out along y.
Brush archway(double width, double height, double depth) {
    FaceMesh mesh;
    std::vector<Vec2> ring{{-width / 2, 0}, {width / 2, 0}};
    const double radius = width / 2, spring = height - radius;
    for (int i = 0; i <= k_arch_segments; ++i) {
        const auto [c, s] = cos_sin(180.0 * i / k_arch_segments);
        ring.push_back({c * radius, spring + s * radius});
    }
    const int n = int(ring.size());
    for (const double y : {-depth / 2, depth / 2})
        for (const Vec2 p : ring) mesh.points.push_back(glm::round(Vec3(p.x, y, p.y) * 1e4) / 1e4);
    FaceMesh::Loop near, away;
    for (int i = 0; i < n; ++i) {
        near.push_back(i), away.push_back(2 * n - 1 - i);
        mesh.faces.push_back({(i + 1) % n, i, n + i, n + (i + 1) % n});
    }
    mesh.faces.push_back(near), mesh.faces.push_back(away);
    Brush brush;
    brush.shape = Shape::body;
    return with_mesh(brush, mesh);
}

/// The height on which somebody stands at a wall of the brush: its base, or the floor of a hollow one.
double ground_of(const Brush& brush) {
    const double base = brush.place.to_level({0, 0, own_box(brush).low.z}).z;
    const bool has_floor = brush.shell_m > 0 && !brush.open_sides.contains(BoxSide::bottom);
    return has_floor ? base + brush.shell_m : base;
}

const Brush* opening(const Item& item) {
    const Brush* brush = item.brush();
    return brush && !brush->host.empty() ? brush : nullptr;
}

} // namespace

OpeningSize opening_size(OpeningKind kind, const Character& c) {
    constexpr double k_beside_m = 0.2, k_above_m = 0.3;
    const double width = to_tenths(2 * (c.radius_m + k_beside_m)), height = to_tenths(c.height_m + k_above_m);
    switch (kind) {
    case OpeningKind::door:
        return {width, height, 0};
    case OpeningKind::window: {
        const double sill = to_tenths(c.eye_height_m * 0.55);
        return {to_tenths(width * 1.2), height - sill, sill};
    }
    case OpeningKind::archway:
        return {to_tenths(width * 1.6), to_tenths(height + width * 0.5), 0};
    }
    return {width, height, 0};
}

std::optional<Brush> opening_in(const Item& host, const Vec3& at, const Vec3& normal, OpeningKind kind,
                                const Character& character, const Measures& agreed) {
    constexpr double k_upright = 0.05;
    if (!host.brush() || std::abs(normal.z) > k_upright) return {};
    const auto body = as_body(*host.brush());
    if (!body) return {};
    const Vec3 out = glm::normalize(raised(flat(normal), 0));
    const Placement& place = body->place;
    const auto through = exit_along(mesh_of(*body), place.to_own(at), place.to_own(place.at - out));
    if (!through) return {};
    OpeningSize size = opening_size(kind, character);
    if (kind == OpeningKind::door) size.height_m = std::max(size.height_m, agreed.door_m);
    const double depth = through->along + 2 * k_beyond_m;
    Brush brush = kind == OpeningKind::archway ? archway(size.width_m, size.height_m, depth) : Brush{};
    brush.effect = Effect::cut;
    brush.size = {size.width_m, depth, size.height_m};
    const Vec3 middle = at - out * (through->along / 2);
    brush.place.at = {middle.x, middle.y, ground_of(*host.brush()) + size.sill_m};
    brush.place.turn_deg = degrees(std::atan2(out.x, -out.y)); // its near side looks out of the wall
    brush.host = host.id;
    return measured(std::move(brush));
}

Level with_openings_following(const Level& before, Level after) {
    std::vector<const Item*> openings;
    std::unordered_map<ItemId, const Item*> was, now;
    for_each_item(after, [&](const Item& item, const Layer&) {
        if (!opening(item)) return;
        openings.push_back(&item);
        was[item.id] = was[opening(item)->host] = now[opening(item)->host] = nullptr;
    });
    if (openings.empty()) return after;
    const auto fill = [](auto& items, const Level& level) {
        for_each_item(level, [&](const Item& item, const Layer&) {
            if (const auto found = items.find(item.id); found != items.end()) found->second = &item;
        });
    };
    fill(was, before), fill(now, after);
    std::vector<Item> moved;
    std::vector<ItemId> lost;
    for (const Item* item : openings) {
        const Item *host_was = was[opening(*item)->host], *host_now = now[opening(*item)->host],
                   *own_was = was[item->id];
        if (host_was && !host_now) lost.push_back(item->id);
        if (!host_was || !host_now || !own_was || !host_was->brush() || !host_now->brush()) continue;
        const Placement &from = host_was->brush()->place, &to = host_now->brush()->place;
        if (from == to || !own_was->brush() || !(own_was->brush()->place == opening(*item)->place)) continue;
        Item copy = *item;
        std::get<Brush>(copy.body).place = taken_along(opening(*item)->place, from, to);
        moved.push_back(std::move(copy));
    }
    if (!moved.empty()) after = with_all_changed(after, moved);
    return lost.empty() ? after : without(after, lost);
}

std::vector<ItemId> openings_of(const Level& level, std::span<const ItemId> hosts) {
    const std::unordered_set<ItemId> among(hosts.begin(), hosts.end());
    std::vector<ItemId> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (opening(item) && among.contains(opening(item)->host) && !among.contains(item.id))
            out.push_back(item.id);
    });
    return out;
}

} // namespace rubble::edit
