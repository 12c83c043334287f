#include "base/angle.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"
#include <cmath>
#include <numbers>

namespace rubble::shapes {

namespace {

/// The corners of the curve under an arch, from the left pier to the right one: x and z.
std::vector<Vec2> arch_curve(const Brush& brush) {
    const double half = brush.size.x / 2 - brush.thickness_m, top = brush.size.z - brush.thickness_m;
    std::vector<Vec2> out;
    if (brush.arch == ArchKind::flat) return {{-half, top}, {half, top}};
    const bool pointed = brush.arch == ArchKind::pointed;
    const double full = pointed ? half * std::numbers::sqrt3 : half;
    const double rise = std::min(full, top), spring = top - rise;
    const int n = pointed ? std::max(2, brush.sides / 2 * 2) : brush.sides;
    for (int i = 0; i <= n; ++i) {
        double x, z;
        if (pointed) { // two arcs, each about the other's foot
            const double turn = radians(60.0 * (i <= n / 2 ? i : n - i) / (n / 2));
            x = (half - 2 * half * std::cos(turn)) * (i <= n / 2 ? 1 : -1);
            z = 2 * half * std::sin(turn);
        } else {
            const double turn = radians(180 - 180.0 * i / n);
            x = half * std::cos(turn), z = half * std::sin(turn);
        }
        out.push_back({i == n / 2 && n % 2 == 0 ? 0 : x, spring + z * rise / full});
    }
    out.front() = {-half, spring}, out.back() = {half, spring};
    return out;
}

BrushBody body_of_arch(const Brush& brush) {
    const std::vector<Vec2> curve = arch_curve(brush);
    const int n = int(curve.size()) - 1;
    const Vec3 half = brush.size / 2.0;
    const double top = brush.size.z;
    std::vector<Vec3> profile;
    auto add = [&](double x, double z) {
        profile.push_back({x, half.y, z});
        return int(profile.size()) - 1;
    };
    const int left_foot = add(-half.x, 0), left_inner = add(curve.front().x, 0),
              right_inner = add(curve.back().x, 0), right_foot = add(half.x, 0), left_top = add(-half.x, top),
              right_top = add(half.x, top);
    std::vector<int> under, over;
    for (const Vec2 p : curve) under.push_back(add(p.x, p.y)), over.push_back(add(p.x, top));
    // Where the curve begins at the base itself there is no inner face below it.
    Raised raised(brush, profile, {0, -brush.size.y, 0});
    BodyMaker& maker = raised.maker;
    const int count = raised.count;
    const std::array ends{maker.plane(left_foot, right_foot, right_top),
                          maker.plane(left_foot + count, right_foot + count, right_top + count)};
    const int base = maker.plane(left_foot, right_foot, left_foot + count),
              roof = maker.plane(left_top, right_top, left_top + count);
    auto upright = [&](int low, int high) { return maker.plane(low, high, low + count); };
    const int left_jamb = upright(left_inner, over.front()), right_jamb = upright(right_inner, over.back());
    auto cell = [&](const Loop& ring, std::array<int, 4> planes, const std::array<NamedSide, 4>& sides) {
        const Loop other = raised.over(ring);
        maker.begin_cell();
        maker.cell_face(Loop(ring.rbegin(), ring.rend()), BoxSide::away, ends[0]);
        maker.cell_face(other, BoxSide::near, ends[1]);
        for (size_t i = 0; i < 4; ++i)
            maker.cell_face({ring[i], ring[(i + 1) % 4], other[(i + 1) % 4], other[i]}, sides[i], planes[i]);
    };
    // The opening's own faces: its jambs, then those of the curve.
    const NamedSide jamb_left(BoxSide::right, {FacePart::side, 0}),
        jamb_right(BoxSide::left, {FacePart::side, 1});
    const auto curved = [](int i) { return NamedSide(BoxSide::bottom, {FacePart::side, 2 + i}); };
    cell({left_foot, left_inner, over.front(), left_top},
         {base, left_jamb, roof, upright(left_foot, left_top)},
         {BoxSide::bottom, jamb_left, BoxSide::top, BoxSide::left});
    for (int i = 0; i < n; ++i) {
        const size_t a = size_t(i), b = a + 1;
        const int left = i == 0 ? left_jamb : upright(under[a], over[a]),
                  right = i + 1 == n ? right_jamb : upright(under[b], over[b]);
        cell({under[a], under[b], over[b], over[a]},
             {maker.plane(under[a], under[b], under[a] + count), right, roof, left},
             {curved(i), BoxSide::right, BoxSide::top, BoxSide::left});
    }
    cell({right_inner, right_foot, right_top, over.back()},
         {base, upright(right_foot, right_top), roof, right_jamb},
         {BoxSide::bottom, BoxSide::right, BoxSide::top, jamb_right});

    const bool jambs = curve.front().y > 0;
    Loop seen{left_foot, left_inner};
    std::vector<NamedSide> sides{BoxSide::bottom};
    if (jambs) seen.push_back(under.front()), sides.push_back(jamb_left);
    for (size_t i = 1; i < under.size(); ++i) seen.push_back(under[i]), sides.push_back(curved(int(i) - 1));
    if (jambs)
        seen.push_back(right_inner), sides.push_back(jamb_right);
    else
        seen.back() = right_inner;
    for (const int i : {right_foot, right_top, left_top}) seen.push_back(i);
    for (const BoxSide side : {BoxSide::bottom, BoxSide::right, BoxSide::top, BoxSide::left})
        sides.push_back(side);
    raised.seen(seen, {BoxSide::away, BoxSide::near}, sides);
    return maker.finish();
}

std::string problem_of_arch(const Brush& brush) {
    const bool opens = brush.thickness_m >= k_thinnest_round_m &&
                       brush.size.x - 2 * brush.thickness_m >= k_thinnest_round_m &&
                       brush.size.z - brush.thickness_m >= k_thinnest_round_m;
    return opens ? "" : "thickness_m";
}

} // namespace

/// Two piers and what spans them, cut upright at the corners of the curve.
ShapeKind arch() {
    ShapeNumber sides = k_sides;
    sides.used = [](const Brush& brush) { return brush.arch != ArchKind::flat; };
    return {.shape = Shape::arch,
            .key = "arch",
            .word = "arch",
            .numbers = {sides, k_thickness},
            .body = body_of_arch,
            .problem = problem_of_arch};
}

} // namespace rubble::shapes
