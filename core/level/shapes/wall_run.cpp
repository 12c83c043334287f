#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

/// The corners of a wall run's cells in plan, each counter-clockwise.
std::vector<std::array<Vec2, 4>> wall_pieces(const Brush& brush) {
    const auto& path = brush.points;
    const size_t n = path.size(), pieces = brush.closed ? n : n - 1;
    const double half = brush.thickness_m / 2;
    auto way = [&](size_t i) { return glm::normalize(path[(i + 1) % n] - path[i % n]); };
    auto left = [](Vec2 v) { return Vec2(-v.y, v.x); };
    // The mitre at a point: half the thickness across both walls that meet there.
    auto mitre = [&](size_t i) -> std::optional<Vec2> {
        const Vec2 in = left(way((i + n - 1) % n)), out = left(way(i));
        const Vec2 sum = in + out;
        const double square = glm::dot(sum, sum);
        constexpr double k_sharpest = 0.25; // turning back by more than 150 degrees leaves a spike
        if (square < k_sharpest) return {};
        return sum * (2 * half / square);
    };
    std::vector<std::array<Vec2, 4>> out;
    for (size_t i = 0; i < pieces; ++i) {
        const Vec2 a = path[i], b = path[(i + 1) % n], along = way(i), across = left(along) * half;
        const bool joined_before = brush.closed || i > 0, joined_after = brush.closed || i + 1 < pieces;
        const auto before = joined_before ? mitre(i) : std::optional(across),
                   after = joined_after ? mitre((i + 1) % n) : std::optional(across);
        if (before && after) {
            const std::array piece{a - *before, b - *after, b + *after, a + *before};
            const bool forward =
                glm::dot(piece[1] - piece[0], along) > 1e-3 && glm::dot(piece[2] - piece[3], along) > 1e-3;
            if (forward) {
                out.push_back(piece);
                continue;
            }
        }
        // Too sharp or too short for mitres: straight ends that overlap.
        const Vec2 begin = joined_before ? a - along * half : a, end = joined_after ? b + along * half : b;
        out.push_back({begin - across, end - across, end + across, begin + across});
    }
    return out;
}

BrushBody body_of_wall_run(const Brush& brush) {
    std::vector<Vec3> base;
    const auto pieces = wall_pieces(brush);
    for (const auto& piece : pieces)
        for (const Vec2 p : piece) base.push_back({p.x, p.y, 0});
    Raised raised(brush, base, {0, 0, brush.size.z});
    Loop all(base.size());
    for (size_t i = 0; i < all.size(); ++i) all[i] = int(i);
    const int bottom = plane_of_ring(raised.maker, all), top = plane_of_ring(raised.maker, raised.over(all));
    for (size_t i = 0; i < pieces.size(); ++i) {
        const int first = int(i) * 4;
        const Loop ring{first, first + 1, first + 2, first + 3};
        std::vector<NamedSide> sides;
        for (size_t k = 0; k < 4; ++k)
            sides.push_back(
                {side_of_edge(pieces[i][k], pieces[i][(k + 1) % 4]), {FacePart::side, first + int(k)}});
        raised.piece(ring, {bottom, top}, {BoxSide::bottom, BoxSide::top}, sides);
        raised.seen(ring, {BoxSide::bottom, BoxSide::top}, sides);
    }
    return raised.maker.finish();
}

std::string problem_of_wall_run(const Brush& brush) {
    const auto& points = brush.points;
    for (const Vec2 p : points)
        if (!(std::abs(p.x) <= geometry::longest_edge_m && std::abs(p.y) <= geometry::longest_edge_m))
            return "points";
    if (points.size() < (brush.closed ? 3u : 2u) || points.size() > most_points) return "points";
    if (!(brush.thickness_m >= k_thinnest_round_m && brush.thickness_m <= geometry::longest_edge_m))
        return "thickness_m";
    for (size_t i = 0; i + (brush.closed ? 0 : 1) < points.size(); ++i)
        if (glm::length(points[(i + 1) % points.size()] - points[i]) < k_thinnest_round_m) return "points";
    return {};
}

Box3 box_of_wall_run(const Brush& brush) {
    Box3 box;
    for (const auto& piece : wall_pieces(brush))
        for (const Vec2 p : piece) box.add(raised(p, 0));
    box.low.z = 0, box.high.z = brush.size.z;
    return box;
}

} // namespace

/// One cell for each straight piece of the wall, mitred where that leaves it convex.
ShapeKind wall_run() {
    return {.shape = Shape::wall_run,
            .key = "wall_run",
            .word = "wall run",
            .data = ShapeData::plan_points,
            .numbers = {k_thickness},
            .body = body_of_wall_run,
            .problem = problem_of_wall_run,
            .own_box = box_of_wall_run};
}

} // namespace rubble::shapes
