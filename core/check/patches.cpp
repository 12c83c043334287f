#include "check/patches.h"

#include <cmath>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/flight.h"
#include "motion/step.h"

namespace rubble::check {

using geometry::ConvexArea;
using geometry::HalfPlane;
using motion::Column;
using motion::HeightPlane;
using motion::World;

namespace {

constexpr double k_tile_m = 8;
/// Edges keep this far to the safe side, so that standing on one does not hang on rounding (metres).
constexpr double k_safe_m = 1e-4;

/// The part of `area` where `upper` is above `lower` by more than `by`.
ConvexArea where_above(const ConvexArea& area, const HeightPlane& upper, const HeightPlane& lower,
                       double by) {
    if (area.empty()) return {};
    const Vec2 slope = upper.slope - lower.slope;
    const double c = upper.c - lower.c - by, steep = glm::length(slope);
    if (steep < 1e-9) return c > 0 ? area : ConvexArea{};
    return geometry::clipped(area, {slope * (-c / (steep * steep)), slope / steep});
}

/// The places where the column keeps a body of `height` from having its feet at `feet`. Over its own round
/// rim a sloping column is taken as high as its plane goes on, never higher than its highest point.
ConvexArea obstacle(const Column& column, const ConvexArea& grown, const HeightPlane& feet, double height,
                    double radius) {
    const double near = tolerance::same_height_m;
    HeightPlane top = column.top, bottom = column.bottom;
    top.c += radius * column.steep;
    bottom.c -= radius * glm::length(bottom.slope);
    ConvexArea area = where_above(grown, top, feet, near);
    if (column.steep > 0) area = where_above(area, {Vec2(0), column.high}, feet, near);
    HeightPlane head = feet;
    head.c += height;
    area = where_above(area, head, bottom, near);
    if (!bottom.level()) area = where_above(area, head, {Vec2(0), column.low}, near);
    return area;
}

/// Long edges first: they part off large pieces, and the short ones of round corners touch only scraps.
std::vector<size_t> by_length(const ConvexArea& area) {
    std::vector<size_t> order(area.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = i;
    auto length = [&](size_t i) { return glm::length(area[(i + 1) % area.size()] - area[i]); };
    std::stable_sort(order.begin(), order.end(),
                     [&](size_t a, size_t b) { return length(a) > length(b) + 1e-9; });
    return order;
}

bool overlaps(const ConvexArea& a, const Box2& a_box, const ConvexArea& b, const Box2& b_box) {
    if (!a_box.touches(b_box)) return false;
    auto separated_by = [](const ConvexArea& p, const ConvexArea& q) {
        for (size_t i = 0; i < p.size(); ++i) {
            const Vec2 along = p[(i + 1) % p.size()] - p[i];
            const double reach = tolerance::same_place_m * glm::length(along);
            bool outside = true;
            for (Vec2 point : q) outside = outside && cross(along, point - p[i]) <= reach;
            if (outside) return true;
        }
        return false;
    };
    return !separated_by(a, b) && !separated_by(b, a);
}

struct Piece {
    ConvexArea area;
    bool low = false;
};

/// Cuts `hole` out of the pieces; with `lower` it is not cut out but marked as low.
void cut_out(std::vector<Piece>& pieces, const ConvexArea& hole, bool lower) {
    if (hole.size() < 3) return;
    const Box2 hole_box = geometry::box_of(hole);
    const std::vector<size_t> order = by_length(hole);
    std::vector<Piece> out;
    for (Piece& piece : pieces) {
        if ((lower && piece.low) || !overlaps(piece.area, geometry::box_of(piece.area), hole, hole_box)) {
            out.push_back(std::move(piece));
            continue;
        }
        ConvexArea rest = std::move(piece.area);
        for (size_t i : order) {
            const Vec2 a = hole[i], along = hole[(i + 1) % hole.size()] - a;
            const double length = glm::length(along);
            if (length < tolerance::same_place_m) continue;
            const Vec2 inward = left_of(along) / length;
            ConvexArea outside = geometry::clipped(rest, {a, -inward});
            if (outside.empty()) continue;
            out.push_back({std::move(outside), piece.low});
            rest = geometry::clipped(rest, {a, inward});
            if (rest.empty()) break;
        }
        if (lower && !rest.empty()) out.push_back({std::move(rest), true});
    }
    pieces = std::move(out);
}

/// One top or, for a slope, one of its two parts: the slope itself, and the rim beyond its upper end over
/// which the feet stay at the highest point.
struct Plot {
    Top top;
    ConvexArea area;
};

std::vector<Plot> plots_of(const Column& column, int index, const Character& c) {
    const ConvexArea area = geometry::grown_inside(column.area, overhang_m(c) - k_safe_m);
    if (column.top.level()) return {{{index, column.top, column.high, {}, c.radius_m}, area}};
    HeightPlane feet = column.top;
    feet.c += c.radius_m * column.steep;
    const HeightPlane highest{Vec2(0), column.high};
    std::vector<Plot> plots;
    if (auto slope = where_above(area, highest, feet, 0); !slope.empty())
        plots.push_back({{index, feet, column.high, column.area, c.radius_m}, std::move(slope)});
    if (auto rim = where_above(area, feet, highest, 0); !rim.empty())
        plots.push_back({{index, highest, column.high, {}, c.radius_m}, std::move(rim)});
    return plots;
}

/// Areas of at most a tile each, split along the lines of one common grid.
std::vector<ConvexArea> tiled(const ConvexArea& area) {
    const Box2 box = geometry::box_of(area);
    std::vector<ConvexArea> out;
    auto index = [](double v) { return int64_t(std::floor(v / k_tile_m)); };
    for (int64_t x = index(box.low.x); x <= index(box.high.x); ++x)
        for (int64_t y = index(box.low.y); y <= index(box.high.y); ++y) {
            ConvexArea tile = area;
            const Vec2 low = Vec2(double(x), double(y)) * k_tile_m, high = low + Vec2(k_tile_m);
            for (const HalfPlane& side : {HalfPlane{low, {1, 0}}, HalfPlane{low, {0, 1}},
                                          HalfPlane{high, {-1, 0}}, HalfPlane{high, {0, -1}}})
                if (!tile.empty()) tile = geometry::clipped(tile, side);
            if (!tile.empty()) out.push_back(std::move(tile));
        }
    return out;
}

/// Whether another plot of equal heights comes first; its area is taken out so that no place counts twice.
bool shadows(const Plot& first, const Plot& second) {
    const double apart = tolerance::same_height_m;
    return glm::length(first.top.feet.slope - second.top.feet.slope) < 1e-9 &&
           std::abs(first.top.feet.c - second.top.feet.c) < apart &&
           std::abs(first.top.cap - second.top.cap) < apart;
}

} // namespace

Patches patches_of(const World& world, const Character& c, const Cancel& cancel) {
    const auto& columns = world.columns();
    Patches out;
    std::vector<Plot> plots;
    std::vector<std::vector<int>> plots_of_column(columns.size());
    std::vector<ConvexArea> grown(columns.size());
    for (size_t i = 0; i < columns.size(); ++i) {
        grown[i] = geometry::grown_outside(columns[i].area, c.radius_m + k_safe_m / 10);
        if (!motion::is_ground(c, columns[i])) continue;
        for (Plot& plot : plots_of(columns[i], int(i), c)) {
            plots_of_column[i].push_back(int(plots.size()));
            plots.push_back(std::move(plot));
        }
    }
    const bool crouches = c.crouched_height_m > 0;
    const double least_height = crouches ? c.crouched_height_m : c.height_m;

    struct Task {
        int plot;
        ConvexArea tile;
    };
    std::vector<Task> tasks;
    for (int p = 0; p < int(plots.size()); ++p)
        for (ConvexArea& tile : tiled(plots[size_t(p)].area)) tasks.push_back({p, std::move(tile)});

    std::vector<std::vector<Piece>> results(tasks.size());
    parallel_for(
        tasks.size(),
        [&](size_t t) {
            if (cancel.requested()) return;
            const Plot& plot = plots[size_t(tasks[t].plot)];
            std::vector<Piece> pieces{{tasks[t].tile, false}};
            const Box2 reach = geometry::box_of(tasks[t].tile).grown(c.radius_m);
            std::vector<ConvexArea> low;
            world.for_near(reach, [&](int i) {
                if (pieces.empty()) return;
                const Column& column = columns[size_t(i)];
                for (int other : plots_of_column[size_t(i)])
                    if (other < tasks[t].plot && shadows(plots[size_t(other)], plot))
                        cut_out(pieces, plots[size_t(other)].area, false);
                if (i == plot.top.column) return;
                auto blocked = [&](double height) {
                    return obstacle(column, grown[size_t(i)], plot.top.feet, height, c.radius_m);
                };
                cut_out(pieces, blocked(least_height), false);
                if (crouches && least_height < c.height_m)
                    if (ConvexArea area = blocked(c.height_m); !area.empty()) low.push_back(std::move(area));
            });
            for (const ConvexArea& area : low) cut_out(pieces, area, true);
            results[t] = std::move(pieces);
        },
        8);

    for (const Plot& plot : plots) out.tops.push_back(plot.top);
    for (size_t t = 0; t < tasks.size(); ++t)
        for (Piece& piece : results[t]) {
            Fragment fragment;
            fragment.box = geometry::box_of(piece.area);
            fragment.area = std::move(piece.area);
            fragment.top = tasks[t].plot;
            fragment.low = piece.low;
            out.fragments.push_back(std::move(fragment));
        }
    return out;
}

} // namespace rubble::check
