#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

BrushBody body_of_stairs(const Brush& brush) {
    const int n = brush.steps;
    const Vec3 half = brush.size / 2.0;
    // The profile lies on the far side; the way leads to the near one, so that x and z run round it
    // counter-clockwise.
    std::vector<Vec3> profile;
    for (int k = 0; k <= n; ++k) profile.push_back({-half.x + brush.size.x * k / n, half.y, 0});
    for (int k = 0; k <= n; ++k)
        profile.push_back({-half.x + brush.size.x * k / n, half.y, brush.size.z * (k + 1) / n});
    for (int k = 0; k < n; ++k)
        profile.push_back({-half.x + brush.size.x * (k + 1) / n, half.y, brush.size.z * (k + 1) / n});
    Raised raised(brush, profile, {0, -brush.size.y, 0});
    BodyMaker& maker = raised.maker;
    auto foot = [](int k) { return k; };
    auto tread_begin = [&](int k) { return n + 1 + k; };
    auto tread_end = [&](int k) { return 2 * n + 2 + k; };
    const int count = raised.count;
    const int away = maker.plane(foot(0), foot(n), tread_end(n - 1)),
              near = maker.plane(foot(0) + count, foot(n) + count, tread_end(n - 1) + count),
              base = maker.plane(foot(0), foot(n), foot(0) + count);
    // The plane of a riser is the side of the step before it too.
    auto across = [&](int k) {
        return k < n ? maker.plane(foot(k), tread_begin(k), foot(k) + count)
                     : maker.plane(foot(n), tread_end(n - 1), foot(n) + count);
    };
    for (int k = 0; k < n; ++k) {
        const Loop ring{foot(k), foot(k + 1), tread_end(k), tread_begin(k)}, other = raised.over(ring);
        maker.begin_cell();
        maker.cell_face(Loop(ring.rbegin(), ring.rend()), BoxSide::away, away);
        maker.cell_face(other, BoxSide::near, near);
        maker.cell_face({ring[0], ring[1], other[1], other[0]}, BoxSide::bottom, base);
        maker.cell_face({ring[1], ring[2], other[2], other[1]}, BoxSide::right, across(k + 1));
        maker.cell_face({ring[2], ring[3], other[3], other[2]}, {BoxSide::top, {BoxSide::top, k}},
                        maker.plane(tread_begin(k), tread_end(k), tread_begin(k) + count));
        maker.cell_face({ring[3], ring[0], other[0], other[3]}, {BoxSide::left, {BoxSide::left, k}},
                        across(k));
    }
    Loop seen{foot(0), foot(n)};
    std::vector<NamedSide> sides{BoxSide::bottom, BoxSide::right};
    for (int k = n; k-- > 0;) {
        seen.push_back(tread_end(k)), seen.push_back(tread_begin(k));
        sides.push_back({BoxSide::top, {BoxSide::top, k}});
        sides.push_back({BoxSide::left, {BoxSide::left, k}});
    }
    raised.seen(seen, {BoxSide::away, BoxSide::near}, sides);
    return maker.finish();
}

std::string problem_of_stairs(const Brush& brush) {
    return std::min(brush.size.x, brush.size.z) / brush.steps < k_thinnest_m * 10 ? "size" : "";
}

} // namespace

/// One cell for each step, from the base to its tread.
ShapeKind stairs() {
    return {.shape = Shape::stairs,
            .key = "stairs",
            .word = "stairs",
            .numbers = {k_steps},
            .body = body_of_stairs,
            .problem = problem_of_stairs};
}

} // namespace rubble::shapes
