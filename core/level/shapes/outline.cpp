#include "geometry/partition.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

using geometry::TickPoint;
using geometry::TickPoint2;

std::vector<TickPoint2> ring_in_ticks(const std::vector<Vec2>& ring) {
    std::vector<TickPoint2> out;
    for (const Vec2 p : ring) {
        const TickPoint t = geometry::to_ticks({p.x, p.y, 0});
        out.push_back({t.x, t.y});
    }
    return out;
}

geometry::Rings rings_of(const Brush& brush) {
    geometry::Rings rings{ring_in_ticks(brush.points)};
    for (const auto& hole : brush.holes) rings.push_back(ring_in_ticks(hole));
    return rings;
}

BrushBody body_of_outline(const Brush& brush) {
    std::vector<Vec3> base;
    auto add = [&](const std::vector<Vec2>& ring) {
        for (const Vec2 p : ring) base.push_back({p.x, p.y, 0});
    };
    add(brush.points);
    for (const auto& hole : brush.holes) add(hole);
    Raised raised(brush, base, {0, 0, brush.size.z});
    // Turned about z the corners are rounded anew: they are parted as they are then.
    geometry::Rings rings = rings_of(brush);
    if (!brush.place.rotation) {
        int i = 0;
        for (auto& ring : rings)
            for (TickPoint2& p : ring) p = {raised.maker.at(i).x, raised.maker.at(i).y}, ++i;
    }
    Loop all(size_t(raised.count));
    for (int i = 0; i < raised.count; ++i) all[size_t(i)] = i;
    const int bottom = plane_of_ring(raised.maker, all), top = plane_of_ring(raised.maker, raised.over(all));
    constexpr std::array ends{BoxSide::bottom, BoxSide::top};
    auto sides_of = [&](const Loop& ring) {
        std::vector<NamedSide> sides; // an edge is named by the corner with which it begins
        for (size_t i = 0; i < ring.size(); ++i)
            sides.push_back(
                {side_of_edge(flat(base[size_t(ring[i])]), flat(base[size_t(ring[(i + 1) % ring.size()])])),
                 {FacePart::side, ring[i]}});
        return sides;
    };
    for (const Loop& part : geometry::convex_parts(rings))
        raised.piece(part, {bottom, top}, ends, sides_of(part));
    int first = 0;
    for (const auto& ring : rings) {
        Loop loop(ring.size());
        for (int& i : loop) i = first++;
        raised.seen(loop, ends, sides_of(loop));
    }
    return raised.maker.finish();
}

bool is_within(Vec2 p) {
    return std::abs(p.x) <= geometry::longest_edge_m && std::abs(p.y) <= geometry::longest_edge_m;
}

std::string problem_of_outline(const Brush& brush) {
    if (!std::all_of(brush.points.begin(), brush.points.end(), is_within)) return "points";
    size_t count = brush.points.size();
    for (const auto& hole : brush.holes) {
        if (!std::all_of(hole.begin(), hole.end(), is_within)) return "holes";
        count += hole.size();
    }
    return brush.points.size() < 3 || count > most_points || !geometry::is_simple(rings_of(brush)) ? "points"
                                                                                                   : "";
}

Box3 box_of_outline(const Brush& brush) {
    Box3 box;
    for (const Vec2 p : brush.points) box.add(raised(p, 0));
    box.low.z = 0, box.high.z = brush.size.z;
    return box;
}

} // namespace

/// An outline raised to its height, in convex parts.
ShapeKind outline() {
    return {.shape = Shape::outline,
            .key = "outline",
            .word = "outline",
            .data = ShapeData::plan_points,
            .body = body_of_outline,
            .problem = problem_of_outline,
            .own_box = box_of_outline};
}

} // namespace rubble::shapes
