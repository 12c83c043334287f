#include "base/angle.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"
#include <cmath>

namespace rubble::shapes {

namespace {

BrushBody body_of_curved_stairs(const Brush& brush) {
    const int n = brush.steps;
    const double angle_deg = std::abs(brush.angle_deg);
    const bool spiral = angle_deg > 360;
    const bool full = brush.inner_part <= 0; // no free middle
    BodyMaker maker(brush, brush.angle_deg < 0);
    const Vec2 outer(brush.size.x / 2, brush.size.y / 2), inner = outer * brush.inner_part;
    std::vector<int> out(size_t(n) + 1), in(size_t(n) + 1);
    for (int k = 0; k <= n; ++k) {
        const auto [c, s] = cos_sin(angle_deg * k / n);
        out[size_t(k)] = maker.point(Vec3(outer.x * c, outer.y * s, 0));
        if (!full || k == 0) in[size_t(k)] = maker.point(Vec3(inner.x * c, inner.y * s, 0));
        if (full) in[size_t(k)] = in[0];
    }
    const geometry::TickPoint up = maker.way({0, 0, brush.size.z});
    std::map<int, int> above_all; // the same points at the full height, for upright planes
    auto upright = [&](int a, int b) {
        const int low = std::min(a, b), high = std::max(a, b);
        auto [place, added] = above_all.try_emplace(low, 0);
        if (added) place->second = maker.point(maker.at(low) + up);
        return maker.plane(low, high, place->second);
    };
    auto lifted = [&](const Loop& ring, double z) {
        Loop loop;
        const geometry::TickPoint by = maker.way({0, 0, z});
        for (const int i : ring) loop.push_back(maker.point(maker.at(i) + by));
        return loop;
    };
    const double rise = brush.size.z / n;
    int base = -1;
    for (int k = 0; k < n; ++k) {
        const size_t i = size_t(k), next = i + 1;
        const Loop ring = full ? Loop{in[0], out[i], out[next]} : Loop{in[i], out[i], out[next], in[next]};
        const double top_z = rise * (k + 1);
        const double low_z = spiral ? std::max(0.0, top_z - std::max(brush.thickness_m, rise)) : 0;
        const Loop top = lifted(ring, top_z), low = low_z > 0 ? lifted(ring, low_z) : ring;
        if (low_z <= 0 && base < 0) base = maker.plane(ring[0], ring[1], ring[2]);
        const int under = low_z > 0 ? maker.plane(low[0], low[1], low[2]) : base;
        const int tread = maker.plane(top[0], top[1], top[2]);
        auto build = [&](const std::function<void(Loop, NamedSide, int)>& face) {
            face(Loop(low.rbegin(), low.rend()), {BoxSide::bottom, {BoxSide::bottom, spiral ? k : -1}},
                 under);
            face(top, {BoxSide::top, {BoxSide::top, k}}, tread);
            for (size_t a = 0; a < ring.size(); ++a) {
                const size_t b = (a + 1) % ring.size();
                const auto [c, s] = cos_sin(angle_deg * (k + 0.5) / n);
                const Vec3 away(c, s, 0), along(-s, c, 0);
                const Vec3 looks = full ? (a == 0   ? -along
                                           : a == 1 ? away
                                                    : along)
                                        : (a == 0   ? -along
                                           : a == 1 ? away
                                           : a == 2 ? along
                                                    : -away);
                face({low[a], low[b], top[b], top[a]},
                     {side_towards(looks), {FacePart::side, 4 * k + int(a)}}, upright(ring[a], ring[b]));
            }
        };
        maker.begin_cell();
        build([&](Loop loop, NamedSide side, int plane) { maker.cell_face(std::move(loop), side, plane); });
        build([&](Loop loop, NamedSide side, int) { maker.seen_face(std::move(loop), side); });
    }
    return maker.finish();
}

std::string problem_of_curved_stairs(const Brush& brush) {
    const Vec3& size = brush.size;
    if (std::min({size.x, size.y, size.z}) / brush.steps < k_thinnest_m * 10) return "size";
    if (!(brush.inner_part >= 0 && brush.inner_part <= 0.95)) return "inner_part";
    if (std::min(size.x, size.y) < 2 * k_thinnest_round_m) return "size";
    // A step turns by less than half a circle and by more than rounding.
    const double angle = std::abs(brush.angle_deg), turn = angle / brush.steps;
    if (!(angle <= most_stair_turn_deg && turn <= 120 && turn >= 0.5)) return "angle_deg";
    if (angle > 360 && !(brush.thickness_m > 0)) return "thickness_m";
    return {};
}

} // namespace

/// Stairs around the middle; round and round the treads have a thickness, so that one gets under them.
ShapeKind curved_stairs() {
    return {.shape = Shape::curved_stairs,
            .key = "curved_stairs",
            .word = "curved stairs",
            .numbers = {k_steps, k_angle, {"inner_part", nullptr, &Brush::inner_part}, k_thickness},
            .body = body_of_curved_stairs,
            .problem = problem_of_curved_stairs};
}

} // namespace rubble::shapes
