#include "level/shapes.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>
#include <optional>

#include "base/angle.h"
#include "geometry/convex_hull.h"
#include "geometry/partition.h"
#include "level/body_mesh.h"
#include "level/shell.h"

namespace rubble::shapes {

namespace {

using geometry::TickPoint;
using geometry::TickPoint2;
using Face = BrushBody::Face;
using Loop = std::vector<int>;

TickPoint operator+(const TickPoint& a, const TickPoint& b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }

/// Puts bodies of several cells together. Faces of neighbouring cells that lie in one plane name it by the
/// same corners, so that they do so exactly, however the brush is turned and its corners rounded.
class BodyMaker {
public:
    /// `mirrored`: what is made is seen in the own plane y = 0.
    explicit BodyMaker(const Brush& brush, bool mirrored = false) : brush_(brush), mirrored_(mirrored) {}

    int point(const Vec3& own) { return point(geometry::to_ticks(brush_.place.to_level(seen(own)))); }
    int point(const TickPoint& at) {
        body_.points.push_back(at);
        return int(body_.points.size()) - 1;
    }
    const TickPoint& at(int point) const { return body_.points[size_t(point)]; }
    TickPoint way(const Vec3& own) const { return geometry::to_ticks(brush_.place.direction(seen(own))); }

    /// The plane through three points, the same for the same points.
    int plane(int a, int b, int c) {
        const auto [place, added] = planes_.try_emplace({a, b, c}, int(body_.planes.size()));
        if (added) body_.planes.push_back(geometry::plane_through(at(a), at(b), at(c)));
        return place->second;
    }
    void begin_cell() { body_.cells.emplace_back(); }
    void cell_face(Loop loop, const NamedSide& side, int plane = -1) {
        body_.cells.back().push_back(seen(std::move(loop), side, plane));
    }
    void bound(Loop loop, const NamedSide& side, int plane) {
        body_.bounds.push_back(seen(std::move(loop), side, plane));
    }
    void seen_face(Loop loop, const NamedSide& side) { body_.faces.push_back(seen(std::move(loop), side, -1)); }

    /// A cell over a ring of points, counter-clockwise seen against the way from `first` to `second`, which
    /// are the same ring twice; `ends` are the planes of the two.
    void prism(const Loop& first, const Loop& second, std::array<int, 2> ends,
               std::array<BoxSide, 2> end_sides, const std::vector<NamedSide>& sides) {
        begin_cell();
        cell_face(Loop(first.rbegin(), first.rend()), end_sides[0], ends[0]);
        cell_face(second, end_sides[1], ends[1]);
        const size_t n = first.size();
        for (size_t i = 0; i < n; ++i) {
            const size_t k = (i + 1) % n;
            cell_face({first[i], first[k], second[k], second[i]}, sides[i],
                      upright(first[i], first[k], second[i]));
        }
    }
    BrushBody finish() { return std::move(body_); }

private:
    Vec3 seen(const Vec3& own) const { return mirrored_ ? Vec3(own.x, -own.y, own.z) : own; }
    Face seen(Loop loop, NamedSide side, int plane) const {
        if (mirrored_) {
            std::reverse(loop.begin(), loop.end());
            if (side == BoxSide::near || side == BoxSide::away)
                side.side = side == BoxSide::near ? BoxSide::away : BoxSide::near;
        }
        return {std::move(loop), side, plane};
    }

    /// Named alike from both sides.
    int upright(int a, int b, int up) {
        if (at(b) < at(a)) return plane(b, a, up);
        return plane(a, b, up);
    }

    const Brush& brush_;
    bool mirrored_;
    BrushBody body_;
    std::map<std::array<int, 3>, int> planes_;
};

/// Three points of a ring far from each other and from one line.
std::array<int, 3> far_corners(const BodyMaker& maker, const Loop& ring) {
    auto at = [&](int i) { return geometry::to_metres(maker.at(i)); };
    const Vec3 origin = at(ring[0]);
    int second = ring[1], third = ring[2];
    for (const int i : ring)
        if (glm::length(at(i) - origin) > glm::length(at(second) - origin)) second = i;
    auto area = [&](int i) { return glm::length(glm::cross(at(second) - origin, at(i) - origin)); };
    for (const int i : ring)
        if (area(i) > area(third)) third = i;
    return {ring[0], second, third};
}

int plane_of_ring(BodyMaker& maker, const Loop& ring) {
    const auto [a, b, c] = far_corners(maker, ring);
    return maker.plane(a, b, c);
}

BoxSide side_of_edge(Vec2 a, Vec2 b) { return side_towards({b.y - a.y, a.x - b.x, 0}); }

/// Prisms over convex pieces of a profile that all stand on one plane and end in another, such as an outline.
struct Raised {
    BodyMaker maker;
    int count = 0; ///< of the points of the base; the others lie above them in the same order
    TickPoint way;

    Raised(const Brush& brush, const std::vector<Vec3>& base, const Vec3& up)
        : maker(brush),
          count(int(base.size())),
          way(maker.way(up)) {
        for (const Vec3& p : base) maker.point(p);
        for (int i = 0; i < count; ++i) maker.point(maker.at(i) + way);
    }
    Loop over(const Loop& ring) const {
        Loop out;
        for (const int i : ring) out.push_back(i + count);
        return out;
    }
    void piece(const Loop& ring, std::array<int, 2> ends, std::array<BoxSide, 2> end_sides,
               const std::vector<NamedSide>& sides) {
        maker.prism(ring, over(ring), ends, end_sides, sides);
    }
    void seen(const Loop& ring, std::array<BoxSide, 2> end_sides, const std::vector<NamedSide>& sides) {
        maker.seen_face(Loop(ring.rbegin(), ring.rend()), end_sides[0]);
        maker.seen_face(over(ring), end_sides[1]);
        for (size_t i = 0; i < ring.size(); ++i) {
            const int a = ring[i], b = ring[(i + 1) % ring.size()];
            maker.seen_face({a, b, b + count, a + count}, sides[i]);
        }
    }
};

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

} // namespace

BoxSide side_towards(const Vec3& own) {
    const Vec3 size = glm::abs(own);
    if (size.z >= size.x && size.z >= size.y) return own.z > 0 ? BoxSide::top : BoxSide::bottom;
    if (size.x >= size.y) return own.x > 0 ? BoxSide::right : BoxSide::left;
    return own.y > 0 ? BoxSide::away : BoxSide::near;
}

BrushBody stairs(const Brush& brush) {
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
        maker.cell_face({ring[3], ring[0], other[0], other[3]}, {BoxSide::left, {BoxSide::left, k}}, across(k));
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

BrushBody curved_stairs(const Brush& brush) {
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
    const TickPoint up = maker.way({0, 0, brush.size.z});
    std::map<int, int> above_all; // the same points at the full height, for upright planes
    auto upright = [&](int a, int b) {
        const int low = std::min(a, b), high = std::max(a, b);
        auto [place, added] = above_all.try_emplace(low, 0);
        if (added) place->second = maker.point(maker.at(low) + up);
        return maker.plane(low, high, place->second);
    };
    auto lifted = [&](const Loop& ring, double z) {
        Loop loop;
        const TickPoint by = maker.way({0, 0, z});
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
            face(Loop(low.rbegin(), low.rend()), {BoxSide::bottom, {BoxSide::bottom, spiral ? k : -1}}, under);
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

BrushBody arch(const Brush& brush) {
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
    const NamedSide jamb_left(BoxSide::right, {FacePart::side, 0}), jamb_right(BoxSide::left, {FacePart::side, 1});
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

bool is_sound_outline(const Brush& brush) { return geometry::is_simple(rings_of(brush)); }

BrushBody outline(const Brush& brush) {
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

BrushBody wall_run(const Brush& brush) {
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
            sides.push_back({side_of_edge(pieces[i][k], pieces[i][(k + 1) % 4]), {FacePart::side, first + int(k)}});
        raised.piece(ring, {bottom, top}, {BoxSide::bottom, BoxSide::top}, sides);
        raised.seen(ring, {BoxSide::bottom, BoxSide::top}, sides);
    }
    return raised.maker.finish();
}

namespace {

/// Whether a face lies in the plane through three corners but for rounding.
bool is_plane(const std::vector<Vec3>& points, const Loop& loop, const std::array<int, 3>& through) {
    constexpr double k_rounding_m = 3e-6;
    const Vec3 on = points[size_t(through[0])];
    const Vec3 normal =
        glm::normalize(glm::cross(points[size_t(through[1])] - on, points[size_t(through[2])] - on));
    return std::all_of(loop.begin(), loop.end(), [&](int i) {
        return std::abs(glm::dot(points[size_t(i)] - on, normal)) <= k_rounding_m;
    });
}

/// The hull of the points of a body, which are its corners where it is convex. `name` says what a face is by
/// its normal and the middle of its corners.
BrushBody hull_of(const Brush& brush, const std::vector<Vec3>& own,
                  const std::function<FaceName(const Vec3& normal, const Vec3& middle)>& name) {
    BrushBody body;
    for (const Vec3& p : own) body.points.push_back(geometry::to_ticks(brush.place.to_level(p)));
    for (auto& loop : geometry::convex_hull(body.points)) {
        Vec3 normal(0);
        for (size_t i = 1; i + 1 < loop.size(); ++i)
            normal += glm::cross(own[size_t(loop[i])] - own[size_t(loop[0])],
                                 own[size_t(loop[i + 1])] - own[size_t(loop[0])]);
        const BoxSide side = side_towards(normal / brush.size);
        body.faces.push_back({loop, {side, name(glm::normalize(normal), middle_of(own, loop))}, -1});
    }
    return body;
}

} // namespace

namespace {

/// For each face three corners of all the faces that lie in one plane with it, so that they name one plane:
/// with planes of their own, a rounding apart where a brush is turned, the rim of an opening would leave a
/// film across it.
std::vector<std::array<int, 3>> corners_of_planes(const BodyMaker& maker, const FaceMesh& mesh) {
    constexpr double k_one_way = 1e-12, k_one_plane_m = 1e-7;
    struct Group {
        Vec3 normal;
        double offset;
        Loop ring;
    };
    std::vector<Group> groups;
    std::vector<size_t> group_of;
    for (const Loop& loop : mesh.faces) {
        const Vec3 normal = glm::normalize(area_vector(mesh.points, loop));
        const double offset = glm::dot(normal, mesh.points[size_t(loop[0])]);
        const auto same = std::find_if(groups.begin(), groups.end(), [&](const Group& group) {
            return glm::dot(group.normal, normal) > 1 - k_one_way &&
                   std::abs(group.offset - offset) < k_one_plane_m;
        });
        group_of.push_back(size_t(same - groups.begin()));
        if (same == groups.end()) groups.push_back({normal, offset, {}});
        Loop& ring = groups[group_of.back()].ring;
        ring.insert(ring.end(), loop.begin(), loop.end());
    }
    std::vector<std::array<int, 3>> of_group, out;
    for (const Group& group : groups) of_group.push_back(far_corners(maker, group.ring));
    for (const size_t group : group_of) out.push_back(of_group[group]);
    return out;
}

} // namespace

BrushBody concave_body(const Brush& brush, const FaceMesh& mesh, const std::vector<FaceName>& names) {
    BodyMaker maker(brush);
    std::vector<Vec3> rounded;
    for (const Vec3& p : mesh.points) rounded.push_back(geometry::to_metres(maker.at(maker.point(p))));
    const auto shared = corners_of_planes(maker, mesh);
    for (size_t f = 0; f < mesh.faces.size(); ++f) {
        const Loop& loop = mesh.faces[f];
        const NamedSide side(side_towards(area_vector(mesh.points, loop) / brush.size), names[f]);
        maker.seen_face(loop, side);
        const auto through = is_plane(rounded, loop, shared[f]) ? shared[f] : far_corners(maker, loop);
        if (is_plane(rounded, loop, through))
            for (Loop& piece : convex_pieces(mesh.points, loop))
                maker.bound(std::move(piece), side, maker.plane(through[0], through[1], through[2]));
        else
            for (Loop& piece : triangles_of(mesh.points, loop)) maker.bound(std::move(piece), side, -1);
    }
    return maker.finish();
}

BrushBody ball(const Brush& brush) {
    const int n = brush.sides, rings = std::max(2, n / 2);
    std::vector<Vec3> own{{0, 0, 0}, {0, 0, brush.size.z}};
    for (int ring = 1; ring < rings; ++ring) {
        const auto [c, s] = cos_sin(180.0 * ring / rings);
        for (int i = 0; i < n; ++i) {
            const auto [x, y] = cos_sin(360.0 * (i - 0.5) / n);
            own.push_back({x * s * brush.size.x / 2, y * s * brush.size.y / 2, (1 - c) * brush.size.z / 2});
        }
    }
    // By its ring from below, and its place around.
    return hull_of(brush, own, [&](const Vec3&, const Vec3& middle) {
        const Vec3 unit = (middle - Vec3(0, 0, brush.size.z / 2)) / brush.size;
        const int ring = int(degrees(std::acos(std::clamp(-unit.z / glm::length(unit), -1.0, 1.0))) / 180 * rings);
        const int around = int(std::lround(degrees(std::atan2(unit.y, unit.x)) / 360 * n) + n) % n;
        return FaceName(FacePart::side, ring * n + around);
    });
}

namespace {

struct NamedShell {
    FaceMesh mesh;
    std::vector<FaceName> names;
};

/// The names of a mesh's faces by those of the body that it was made from.
std::vector<FaceName> names_in(const FaceMesh& mesh, const BrushBody& body) {
    const std::vector<NamedFace> named = named_faces(body);
    std::vector<NamedFace> faces;
    for (const Loop& loop : mesh.faces) {
        NamedFace face;
        for (const int p : loop) face.corners.push_back(mesh.points[size_t(p)]);
        faces.push_back(std::move(face));
    }
    std::vector<FaceName> names;
    for (const int from : faces_before(named, faces))
        names.push_back(from < 0 ? FaceName(FacePart::face, int(names.size())) : named[size_t(from)].side.name);
    return names;
}

std::optional<NamedShell> named_shell(const Brush& brush) {
    Brush solid = brush;
    solid.shell_m = 0;
    solid.place = {};
    const BrushBody body = body_of(solid);
    // Longer surfaces take longer than a frame to look over.
    constexpr size_t k_most_faces = 1000;
    if (std::max(body.faces.size(), body.cells.size() * 6) > k_most_faces) return {};
    const auto mesh = closed_mesh_of(body);
    if (!mesh) return {};
    std::set<int> open;
    for (size_t f = 0; f < mesh->faces.size(); ++f)
        if (brush.open_sides.contains(side_towards(area_vector(mesh->points, mesh->faces[f]) / brush.size)))
            open.insert(int(f));
    auto shell = shelled(*mesh, brush.shell_m, open);
    if (!shell) return {};
    NamedShell out{std::move(shell->mesh), {}};
    const std::vector<FaceName> names = names_in(*mesh, body);
    for (const ShellFace& face : shell->faces) {
        out.names.push_back(names[size_t(face.of)]);
        out.names.back().inner = face.inner;
    }
    return out;
}

} // namespace

BrushBody shell(const Brush& brush) {
    const auto shell = named_shell(brush);
    return shell ? concave_body(brush, shell->mesh, shell->names) : BrushBody{};
}

std::optional<FaceMesh> shell_mesh(const Brush& brush) {
    auto shell = named_shell(brush);
    return shell ? std::optional(std::move(shell->mesh)) : std::nullopt;
}

bool is_sound_body(const Brush& brush) {
    return flaw_of({brush.corners, brush.faces}, false) == MeshFlaw::none;
}

BrushBody body(const Brush& brush) {
    const FaceMesh mesh{brush.corners, brush.faces};
    std::vector<FaceName> names;
    std::vector<Vec3> normals;
    for (size_t f = 0; f < brush.faces.size(); ++f) {
        names.push_back(body_face_name(brush, int(f)));
        normals.push_back(normal_of(brush.corners, brush.faces[f]));
    }
    if (!is_convex(mesh)) return concave_body(brush, mesh, names);
    return hull_of(brush, brush.corners, [&](const Vec3& normal, const Vec3&) {
        size_t best = 0;
        for (size_t f = 1; f < normals.size(); ++f)
            if (glm::dot(normals[f], normal) > glm::dot(normals[best], normal)) best = f;
        return names[best];
    });
}

} // namespace rubble::shapes
