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

/// How deep a shape is that was drawn from the front or the side, where nothing tells it (metres).
constexpr double k_first_depth_m = 1;
/// What is drawn in a Side level reaches this far to both sides of the plane that is played in (metres).
constexpr double k_side_half_m = 0.5;

/// How near an edge must be to be caught (pixels).
constexpr double k_snap_px = 8;

/// The level's axis that a direction runs along; -1 where it runs along none.
int level_axis(const Vec3& way) {
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(way[axis]) > 1 - 1e-9) return axis;
    return -1;
}

} // namespace

double snap_grid(const Session& session, const Pointer& pointer) {
    return pointer.snaps() && session.snapping().grid ? session.grid_m() : 0;
}

double snap_turn(const Session& session, const Pointer& pointer) {
    return pointer.snaps() && session.snapping().turn ? session.project().turn_step_deg : 0;
}

double snap_catch(const Session& session, const Pointer& pointer, const Vec3& at) {
    return pointer.snaps() && session.snapping().edges ? k_snap_px * pointer.camera.metres_per_pixel(at) : 0;
}

Vec3 drawing_ground(const Session& session, const Pointer& pointer) {
    Vec3 at = pointer.ground;
    if (pointer.hit && pointer.hit->normal.z < 0.99)
        at.z = snap_along(session.level(), {}, at, 2, at.z, 0, snap_catch(session, pointer, at));
    return at;
}

Vec3 snapped_on(const Session& session, const Pointer& pointer, const edit::WorkingPlane& plane,
                const Vec3& at) {
    const double grid = snap_grid(session, pointer), near = snap_catch(session, pointer, at);
    Vec3 own = plane.to_own(at);
    for (int i = 0; i < 2; ++i) {
        const Vec3 way = i == 0 ? plane.u : plane.v;
        if (const int axis = level_axis(way); axis >= 0) {
            const double to = snap_along(session.level(), {}, at, axis, at[axis], grid, near);
            own[i] += (to - at[axis]) * way[axis];
        } else {
            own[i] = edit::snapped(own[i], grid);
        }
    }
    own.z = 0;
    const Vec3 there = edit::without_noise(plane.to_level(own));
    const auto corner = caught_corner(session, pointer);
    if (!corner) return there;
    // Of a corner and a place on the grid the one that is nearer on the screen.
    const auto off = [&](const Vec3& place) {
        const auto on_screen = pointer.camera.to_screen(place);
        return on_screen
                   ? std::hypot(on_screen->x() - pointer.screen.x(), on_screen->y() - pointer.screen.y())
                   : 1e9;
    };
    if (grid > 0 && off(there) <= off(corner->at)) return there;
    const Vec3 caught = plane.to_own(corner->at);
    return edit::without_noise(plane.to_level({caught.x, caught.y, 0}));
}

Snapped snap(const Level& level, const std::vector<ItemId>& moving, const Vec3& at, double grid,
             double catch_m) {
    Snapped out;
    out.at = edit::snapped(at, grid);
    std::array<double, 2> best{};
    for (int axis = 0; axis < 2; ++axis)
        best[size_t(axis)] = grid > 0 ? std::min(catch_m, std::abs(out.at[axis] - at[axis])) : catch_m;
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
    double best = grid > 0 ? std::min(catch_m, std::abs(out - value)) : catch_m;
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
            add(built.met_by(pointer.camera.ray(pointer.screen + off), pointer.cut_z));
        }
    return out;
}

std::optional<CaughtCorner> caught_corner(const Session& session, const Pointer& pointer,
                                          const ItemId& except) {
    constexpr double k_catch_px = 10, k_px_per_m = 0.002;
    std::optional<CaughtCorner> best;
    if (!pointer.snaps() || !session.snapping().corners) return best;
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

std::optional<Vec3> caught_edge(const Session& session, const Pointer& pointer, const ItemId& except,
                                const Vec3& along) {
    constexpr double k_px_per_m = 0.002;
    std::optional<Vec3> best;
    if (!pointer.snaps() || !session.snapping().edges) return best;
    double least = k_snap_px;
    const double grid = snap_grid(session, pointer);
    auto offer = [&](const Vec3& a, const Vec3& b) {
        if (std::abs(glm::dot(glm::normalize(b - a), along)) > 0.9) return;
        const double part = std::clamp(nearest_along(pointer.ray, a, b - a), 0.0, 1.0);
        Vec3 place = a + (b - a) * part;
        if (const int axis = level_axis(glm::normalize(b - a)); axis >= 0)
            place[axis] = std::clamp(edit::snapped(place[axis], grid), std::min(a[axis], b[axis]),
                                     std::max(a[axis], b[axis]));
        const auto on_screen = pointer.camera.to_screen(a + (b - a) * part);
        if (!on_screen) return;
        const double depth = glm::dot(place - pointer.camera.eye(), pointer.camera.forward());
        const double far =
            std::hypot(on_screen->x() - pointer.screen.x(), on_screen->y() - pointer.screen.y()) +
            k_px_per_m * depth;
        if (far < least) least = far, best = place;
    };
    for (const Item* item : brushes_near(session, pointer)) {
        if (item->id == except) continue;
        const BrushBody body = body_of(*item->brush());
        for (const auto& face : body.faces)
            for (size_t i = 0; i < face.loop.size(); ++i)
                offer(geometry::to_metres(body.points[size_t(face.loop[i])]),
                      geometry::to_metres(body.points[size_t(face.loop[(i + 1) % face.loop.size()])]));
    }
    return best;
}

std::optional<double> way_to_face(const Session& session, const Pointer& pointer, const Vec3& from,
                                  const Vec3& way, const ItemId& except) {
    const auto& solid = session.built().solid;
    if (!pointer.hit || !solid || size_t(pointer.hit->brush) >= solid->brushes.size() ||
        solid->brushes[size_t(pointer.hit->brush)]->item == except)
        return {};
    constexpr double k_along = 0.1;
    const double across = glm::dot(way, pointer.hit->normal);
    if (std::abs(across) < k_along) return {};
    return glm::dot(pointer.hit->at - from, pointer.hit->normal) / across;
}

std::optional<Elevation> elevation_of(const Session& session, const Camera& camera) {
    if (session.plane() || !camera.flat() || camera.kind == Camera::Kind::above) return {};
    const Vec3 look = camera.forward();
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id); item && item->brush()) box.add(box_of(*item));
    double from = 0, to = k_first_depth_m;
    if (session.level().frame == Frame::side && camera.kind == Camera::Kind::front)
        from = -k_side_half_m, to = k_side_half_m; // about the plane that is played in
    if (camera.slice)
        from = camera.slice->from, to = camera.slice->to;
    else if (!box.empty())
        from = std::min(glm::dot(box.low, look), glm::dot(box.high, look)),
        to = std::max(glm::dot(box.low, look), glm::dot(box.high, look));
    return Elevation{{look * from, camera.right(), camera.up(), -look}, to - from};
}

bool seen_from_the_side(Session& session, const Pointer& pointer) {
    const bool from_the_side = session.level().frame != Frame::side && pointer.camera.flat() &&
                               pointer.camera.kind != Camera::Kind::above;
    if (from_the_side)
        emit session.message(
            Session::tr("There is no ground to draw on in this view: draw in the space or the plan view"));
    return from_the_side;
}

Vec3 ground_below(const Session& session, const Vec3& at) {
    constexpr double k_deepest_m = 1000;
    const Vec3 place(at.x, 0, at.z);
    const auto& check = session.built().check;
    if (!check || !check->world) return place;
    const auto support = motion::support_below(*check->world, {place, session.character().radius_m, 0.01},
                                               session.character().step_height_m, k_deepest_m);
    return support ? Vec3(at.x, 0, support->height) : place;
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
