#include <cmath>
#include <numeric>

#include "base/angle.h"
#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/cell_ground.h"
#include "check/ground.h"
#include "check/patches.h"
#include "check/round_top.h"
#include "check/walk.h"

namespace rubble::check {

using geometry::ConvexArea;

namespace {

/// The part of the edge from `a` to `b` that is within `apart` of an area; nothing where it is too short.
std::optional<std::pair<Vec2, Vec2>> edge_along(Vec2 a, Vec2 b, const ConvexArea& area, double apart) {
    double t0 = 0, t1 = 1;
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 along = area[(i + 1) % area.size()] - area[i];
        const double length = glm::length(along);
        if (length < tolerance::same_place_m) continue;
        const double da = cross(along, a - area[i]) / length + apart,
                     db = cross(along, b - area[i]) / length + apart;
        if (da < 0 && db < 0) return {};
        if (da < 0) t0 = std::max(t0, da / (da - db));
        if (db < 0) t1 = std::min(t1, da / (da - db));
    }
    if ((t1 - t0) * glm::length(b - a) < tolerance::touching_m) return {};
    return {{a + (b - a) * t0, a + (b - a) * t1}};
}

/// The longest common edge of two areas that lie side by side.
std::optional<std::pair<Vec2, Vec2>> common_edge(const ConvexArea& a, const ConvexArea& b, double apart) {
    std::optional<std::pair<Vec2, Vec2>> best;
    double best_length = 0;
    for (size_t i = 0; i < a.size(); ++i) {
        const Vec2 p = a[i], q = a[(i + 1) % a.size()];
        const double length = glm::length(q - p);
        if (length < tolerance::touching_m) continue;
        // `b` must reach the edge's line from outside.
        double nearest = std::numeric_limits<double>::infinity();
        for (Vec2 v : b) nearest = std::min(nearest, std::abs(cross(q - p, v - p)) / length);
        double outermost = 0;
        for (Vec2 v : b) outermost = std::min(outermost, cross(q - p, v - p) / length);
        if (nearest > apart || outermost > -tolerance::same_place_m) continue;
        const auto part = edge_along(p, q, b, apart);
        if (part && glm::length(part->second - part->first) > best_length) {
            best = part;
            best_length = glm::length(part->second - part->first);
        }
    }
    return best;
}

/// How far the two drawings of a round rim, tangents outside and chords inside, are apart at most, and the
/// part of the support that must rest on the upper ground.
double rim_gap(const Character& c) {
    const double half = radians(tolerance::corner_step_deg / 2);
    return c.radius_m * (1 / std::cos(half) - std::cos(half)) + c.least_support_m + tolerance::touching_m;
}

/// The part of an edge along which a rise that changes evenly from `r0` to `r1` is within a step.
std::optional<std::pair<double, double>> within_step(double r0, double r1, double step) {
    double low = 0, high = 1;
    for (const double sign : {1.0, -1.0}) { // sign * r(t) <= step
        const double v0 = sign * r0 - step, v1 = sign * r1 - step;
        if (v0 > 0 && v1 > 0) return {};
        if (v0 > 0) low = std::max(low, v0 / (v0 - v1));
        if (v1 > 0) high = std::min(high, v0 / (v0 - v1));
    }
    if (low >= high) return {};
    return {{low, high}};
}

/// The same for a rise that does not change evenly, as over the rims of slopes, where a disc beside an edge
/// feels less of the slope: the longest row of places of the edge that are within a step.
template <class Rise>
std::optional<std::pair<double, double>> places_within_step(const Portal& portal, Rise rise_at, double step) {
    constexpr int k_parts = 16;
    int begin = -1, best_begin = 0, best_length = 0;
    for (int i = 0; i <= k_parts + 1; ++i) {
        const bool within =
            i <= k_parts &&
            std::abs(rise_at(portal.a + (portal.b - portal.a) * (double(i) / k_parts))) <= step;
        if (within && begin < 0) begin = i;
        if (within || begin < 0) continue;
        if (i - 1 - begin > best_length) best_begin = begin, best_length = i - 1 - begin;
        begin = -1;
    }
    if (best_length == 0) return {};
    return {{double(best_begin) / k_parts, double(best_begin + best_length) / k_parts}};
}

void find_portals(Ground& ground, const Character& c, const std::vector<int>& renewed, const Cancel& cancel) {
    const double rim = rim_gap(c);
    const double step = c.step_height_m + tolerance::limit_m;
    parallel_for(
        renewed.size(),
        [&](size_t i) {
            if (cancel.requested()) return;
            const size_t f = size_t(renewed[i]);
            Fragment& from = ground.fragments[f];
            ground.for_near(from.box.grown(rim), [&](int other) {
                if (other == int(f)) return;
                const Fragment& to = ground.fragments[size_t(other)];
                const Top &a = ground.tops[size_t(from.top)], &b = ground.tops[size_t(to.top)];
                const bool one_plane =
                    from.top == to.top || (!a.round && !b.round && a.feet == b.feet && a.cap == b.cap);
                const auto edge = common_edge(from.area, to.area, one_plane ? 1e-5 : rim);
                if (!edge) return;
                Portal portal{other, edge->first, edge->second};
                auto rise_at = [&](Vec2 p) { return b.feet_at(p) - a.feet_at(p); };
                auto part = within_step(rise_at(portal.a), rise_at(portal.b), step);
                const bool level = a.level() && b.level();
                if (!part && !level) part = places_within_step(portal, rise_at, step);
                if (part) {
                    const Vec2 along = portal.b - portal.a;
                    portal.b = portal.a + along * part->second;
                    portal.a = portal.a + along * part->first;
                    portal.walked = glm::length(portal.b - portal.a) >= tolerance::touching_m;
                }
                if (!portal.walked) portal.a = edge->first, portal.b = edge->second;
                portal.rise = rise_at(portal.middle());
                if (portal.walked || portal.rise < 0) from.portals.push_back(portal);
            });
        },
        16);
}

/// Whether the character walks through a portal, with its own motion.
bool crosses(const Ground& ground, const motion::World& world, const Character& c, int from,
             const Portal& portal) {
    const Fragment &a = ground.fragments[size_t(from)], &b = ground.fragments[size_t(portal.to)];
    const Vec2 along = portal.b - portal.a;
    const Vec2 outward = -left_of(along / glm::length(along));
    const Vec2 begin = geometry::nearest(a.area, portal.middle() - outward * 0.03),
               end = geometry::nearest(b.area, portal.middle() + outward * 0.03);
    Character plain = c;
    plain.jump_height_m = 0;
    if (a.low || b.low) plain.height_m = std::max(c.crouched_height_m, 0.01);
    motion::Recorder recorder(world, plain,
                              motion::state_at(world, plain, raised(begin, ground.feet_at(from, begin))));
    if (!recorder.state().standing) return false;
    const Path path{{{begin, false}, {end, false}}, {from, portal.to}, glm::length(end - begin)};
    return walk_path(recorder, plain, path) &&
           std::abs(recorder.state().at.z - ground.feet_at(portal.to, end)) < 0.03;
}

/// Over the round rims of slopes heights are known only where they are asked for: there the motion itself
/// decides which portals are walked. Level ground is exact as it is.
void try_slope_portals(Ground& ground, const motion::World& world, const Character& c,
                       const std::vector<int>& renewed, const Cancel& cancel) {
    parallel_for(
        renewed.size(),
        [&](size_t i) {
            if (cancel.requested()) return;
            const size_t f = size_t(renewed[i]);
            for (Portal& portal : ground.fragments[f].portals) {
                const Top &a = ground.tops[size_t(ground.fragments[f].top)],
                          &b = ground.tops[size_t(ground.fragments[size_t(portal.to)].top)];
                const bool level = a.level() && b.level();
                if (!level && portal.walked && a.column != b.column)
                    portal.walked = crosses(ground, world, c, int(f), portal);
            }
        },
        16);
}

/// Gives fragments that were taken over the portals they had, and lists the others: those found anew, and
/// those near enough to a change that a portal may have come, gone or closed.
std::vector<int> take_over_portals(Ground& ground, const Character& c, const Patches& patches,
                                   const GroundBefore* before) {
    std::vector<int> renewed, now_at(before ? before->ground.fragments.size() : 0, -1);
    for (size_t f = 0; f < ground.fragments.size(); ++f)
        if (ground.before[f] >= 0) now_at[size_t(ground.before[f])] = int(f);
    const double reach = 2 * c.radius_m + 0.1; // of the walk that tries a portal over a slope
    std::vector<bool> near(ground.fragments.size(), !before);
    const auto mark = [&](const Box2& place) {
        ground.for_near(place.grown(reach), [&](int f) { near[size_t(f)] = true; });
    };
    if (before) {
        for (const Box2& place : patches.renewed) mark(place);
        for (const Box2& place : before->change.places) mark(place);
    }
    for (size_t f = 0; f < ground.fragments.size(); ++f)
        if (ground.before[f] < 0 || near[f]) renewed.push_back(int(f));
    parallel_for(
        ground.fragments.size(),
        [&](size_t f) {
            auto& portals = ground.fragments[f].portals;
            if (ground.before[f] < 0 || near[f]) return portals.clear();
            for (Portal& portal : portals) portal.to = now_at[size_t(portal.to)];
        },
        512);
    return renewed;
}

/// A portal that is walked one way only does not join two fragments into a ledge.
bool walked_back(const Ground& ground, int from, int to) {
    for (const Portal& portal : ground.fragments[size_t(from)].portals)
        if (portal.to == to && portal.walked) return true;
    return false;
}

/// Of the other fragments it is known which portals are walked both ways.
void join_ledges(Ground& ground, const std::vector<int>& renewed) {
    for (const int f : renewed)
        for (Portal& portal : ground.fragments[size_t(f)].portals)
            if (portal.walked && !walked_back(ground, portal.to, f)) portal.walked = false;
    std::vector<int> parent(ground.fragments.size());
    std::iota(parent.begin(), parent.end(), 0);
    auto root = [&](int i) {
        while (parent[size_t(i)] != i) i = parent[size_t(i)] = parent[size_t(parent[size_t(i)])];
        return i;
    };
    for (size_t f = 0; f < ground.fragments.size(); ++f)
        for (const Portal& portal : ground.fragments[f].portals)
            if (portal.walked)
                parent[size_t(std::max(root(int(f)), root(portal.to)))] =
                    std::min(root(int(f)), root(portal.to));
    std::vector<int> ledge_of(ground.fragments.size(), -1);
    for (size_t f = 0; f < ground.fragments.size(); ++f) {
        int& ledge = ledge_of[size_t(root(int(f)))];
        if (ledge < 0) {
            ledge = int(ground.ledges.size());
            ground.ledges.emplace_back();
        }
        Fragment& fragment = ground.fragments[f];
        fragment.ledge = ledge;
        Ledge& all = ground.ledges[size_t(ledge)];
        all.fragments.push_back(int(f));
        all.area_m2 += fragment.area_m2;
        all.box.add(raised(fragment.box.low, fragment.lowest_m));
        all.box.add(raised(fragment.box.high, fragment.highest_m));
    }
}

} // namespace

double Top::feet_at(Vec2 p) const {
    if (round) return round->feet_at(p);
    const double plain = std::min(feet.at(p), cap);
    if (slope_area.empty()) return plain;
    const auto felt = geometry::range_over_disc(slope_area, p, radius, slope.slope, slope.c);
    return felt ? std::min(felt->high, cap) : plain;
}

int Ground::locate(const Vec3& feet, double within) const {
    int best = -1;
    double best_score = std::numeric_limits<double>::infinity();
    const double reach = 0.02; // round rims are drawn within this of the truth
    for_near(Box2{flat(feet), flat(feet)}.grown(reach), [&](int i) {
        const double height = std::abs(feet_at(i, flat(feet)) - feet.z);
        if (height > within) return;
        const double aside = geometry::distance(fragments[size_t(i)].area, flat(feet));
        if (aside > reach) return;
        const double score = aside * 10 + height;
        if (score < best_score) best_score = score, best = i;
    });
    return best;
}

int Ground::ledge_at(const Vec3& feet, double within) const {
    const int fragment = locate(feet, within);
    return fragment < 0 ? -1 : fragments[size_t(fragment)].ledge;
}

Ground ground_of(const motion::World& world, const Character& character, const Cancel& cancel,
                 const GroundBefore* before) {
    if (world.moving().cells) return cell_ground(world);
    Patches patches = patches_of(world, character, cancel, before);
    Ground ground;
    ground.flat_on = world.flat_on();
    ground.tops = std::move(patches.tops);
    ground.fragments = std::move(patches.fragments);
    ground.patches = std::move(patches.patches);
    ground.before = std::move(patches.before);
    std::vector<Box2> boxes;
    boxes.reserve(ground.fragments.size());
    for (size_t i = 0; i < ground.fragments.size(); ++i) {
        Fragment& fragment = ground.fragments[i];
        boxes.push_back(fragment.box);
        if (ground.before[i] >= 0) continue;
        fragment.lowest_m = std::numeric_limits<double>::infinity(), fragment.highest_m = -fragment.lowest_m;
        for (Vec2 p : fragment.area) {
            fragment.lowest_m = std::min(fragment.lowest_m, ground.feet_at(int(i), p));
            fragment.highest_m = std::max(fragment.highest_m, ground.feet_at(int(i), p));
        }
        const Top& top = ground.tops[size_t(fragment.top)];
        if (top.round) fragment.highest_m = top.cap; // it may rise between the corners
    }
    ground.grid = geometry::BoxGrid(boxes);
    const std::vector<int> renewed = take_over_portals(ground, character, patches, before);
    if (cancel.requested()) return {};
    find_portals(ground, character, renewed, cancel);
    if (cancel.requested()) return {};
    try_slope_portals(ground, world, character, renewed, cancel);
    if (cancel.requested()) return {};
    join_ledges(ground, renewed);
    return ground;
}

Vec3 place_of(const Ground& ground, int fragment) {
    const Fragment& one = ground.fragments[size_t(fragment)];
    const Vec2 middle = geometry::nearest(one.area, (one.box.low + one.box.high) * 0.5);
    return raised(middle, ground.feet_at(fragment, middle));
}

} // namespace rubble::check
