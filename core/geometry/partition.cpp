#include "geometry/partition.h"

#include <algorithm>
#include <map>
#include <numeric>

namespace rubble::geometry {

namespace {

using Points = std::vector<TickPoint2>;
using Ring = std::vector<int>;

bool between(int64_t a, int64_t v, int64_t b) { return std::min(a, b) <= v && v <= std::max(a, b); }

/// Whether `p` lies on the segment.
bool on_segment(const TickPoint2& a, const TickPoint2& b, const TickPoint2& p) {
    return turn(a, b, p) == 0 && between(a.x, p.x, b.x) && between(a.y, p.y, b.y);
}

int sign(__int128 v) { return v > 0 ? 1 : v < 0 ? -1 : 0; }

/// Whether two segments have a point in common.
bool meet(const TickPoint2& a, const TickPoint2& b, const TickPoint2& c, const TickPoint2& d) {
    const int c_side = sign(turn(a, b, c)), d_side = sign(turn(a, b, d));
    const int a_side = sign(turn(c, d, a)), b_side = sign(turn(c, d, b));
    if (c_side * d_side < 0 && a_side * b_side < 0) return true;
    return on_segment(a, b, c) || on_segment(a, b, d) || on_segment(c, d, a) || on_segment(c, d, b);
}

bool contains(const Points& ring, const TickPoint2& p) {
    bool inside = false;
    for (size_t i = 0; i < ring.size(); ++i) {
        const TickPoint2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
        if ((a.y > p.y) != (b.y > p.y) && (turn(a, b, p) > 0) == (b.y > a.y)) inside = !inside;
    }
    return inside;
}

/// Cuts ears off a ring of points, which may pass a bridge to a hole twice.
class EarCutter {
public:
    explicit EarCutter(const Points& points) : points_(points) {}

    /// Takes a hole into the ring by a bridge from its rightmost corner to one of the ring that it sees.
    static void bridge(Ring& ring, const Ring& hole, const Points& points) {
        const auto right = std::max_element(
            hole.begin(), hole.end(), [&](int a, int b) { return points[size_t(a)] < points[size_t(b)]; });
        const TickPoint2& from = points[size_t(*right)];
        size_t best = ring.size();
        auto nearer = [&](size_t a, size_t b) {
            const TickPoint2 &p = points[size_t(ring[a])], &q = points[size_t(ring[b])];
            auto square = [&](const TickPoint2& at) {
                return __int128(at.x - from.x) * (at.x - from.x) + __int128(at.y - from.y) * (at.y - from.y);
            };
            return square(p) < square(q);
        };
        for (size_t i = 0; i < ring.size(); ++i)
            if ((best == ring.size() || nearer(i, best)) && sees(ring, i, from, points) &&
                clear_of(hole, points[size_t(ring[i])], from, points))
                best = i;
        if (best == ring.size()) return; // rings that are not simple
        Ring out(ring.begin(), ring.begin() + long(best) + 1);
        const size_t first = size_t(right - hole.begin());
        for (size_t k = 0; k <= hole.size(); ++k) out.push_back(hole[(first + k) % hole.size()]);
        out.insert(out.end(), ring.begin() + long(best), ring.end());
        ring = std::move(out);
    }

    /// `dropping`: points on straight lines may be left out.
    std::vector<Ring> triangles(Ring ring, bool dropping) const {
        std::vector<Ring> out;
        size_t i = 0, tried = 0;
        while (ring.size() > 3 && tried < ring.size()) {
            const size_t n = ring.size(), before = (i + n - 1) % n, after = (i + 1) % n;
            if (is_ear(ring, before, i, after)) {
                out.push_back({ring[before], ring[i], ring[after]});
                ring.erase(ring.begin() + long(i));
                tried = 0;
                i = i == 0 ? ring.size() - 1 : i - 1;
            } else if (dropping && turn(at(ring[before]), at(ring[i]), at(ring[after])) == 0 &&
                       !passes_twice(ring, ring[i])) {
                ring.erase(ring.begin() + long(i)); // on a straight line
                tried = 0;
                i %= ring.size();
            } else {
                i = after;
                ++tried;
            }
        }
        if (ring.size() == 3 && turn(at(ring[0]), at(ring[1]), at(ring[2])) > 0) out.push_back(ring);
        return out;
    }

private:
    const TickPoint2& at(int i) const { return points_[size_t(i)]; }

    static bool passes_twice(const Ring& ring, int corner) {
        return std::count(ring.begin(), ring.end(), corner) > 1;
    }

    bool is_ear(const Ring& ring, size_t before, size_t i, size_t after) const {
        const TickPoint2 &a = at(ring[before]), &b = at(ring[i]), &c = at(ring[after]);
        if (turn(a, b, c) <= 0) return false;
        for (const int k : ring) {
            const TickPoint2& p = at(k);
            if (p == a || p == b || p == c) continue;
            if (turn(a, b, p) >= 0 && turn(b, c, p) >= 0 && turn(c, a, p) >= 0) return false;
        }
        return true;
    }

    /// Whether the way from a corner of the ring to a point in it is free, and leaves the corner inward.
    static bool sees(const Ring& ring, size_t i, const TickPoint2& from, const Points& points) {
        const size_t n = ring.size();
        const TickPoint2& to = points[size_t(ring[i])];
        const TickPoint2 &before = points[size_t(ring[(i + n - 1) % n])],
                         &after = points[size_t(ring[(i + 1) % n])];
        const bool reflex = turn(before, to, after) < 0;
        const bool in_front = turn(before, to, from) > 0, behind = turn(to, after, from) > 0;
        if (reflex ? !(in_front || behind) : !(in_front && behind)) return false;
        for (size_t k = 0; k < n; ++k) {
            const TickPoint2 &a = points[size_t(ring[k])], &b = points[size_t(ring[(k + 1) % n])];
            if (a == to || b == to) {
                const TickPoint2& other = a == to ? b : a;
                if (on_segment(from, to, other) && other != to) return false;
                continue;
            }
            if (meet(a, b, from, to)) return false;
        }
        return true;
    }

    static bool clear_of(const Ring& hole, const TickPoint2& to, const TickPoint2& from,
                         const Points& points) {
        for (size_t k = 0; k < hole.size(); ++k) {
            const TickPoint2 &a = points[size_t(hole[k])], &b = points[size_t(hole[(k + 1) % hole.size()])];
            if (a == from || b == from) {
                if (on_segment(from, to, a == from ? b : a)) return false;
                continue;
            }
            if (meet(a, b, from, to)) return false;
        }
        return true;
    }

    const Points& points_;
};

/// Puts neighbouring parts together while the result is convex.
std::vector<Ring> merged(std::vector<Ring> parts, const Points& points) {
    std::map<std::pair<int, int>, int> part_of; // by directed edge
    for (int p = 0; p < int(parts.size()); ++p)
        for (size_t i = 0; i < parts[size_t(p)].size(); ++i)
            part_of[{parts[size_t(p)][i], parts[size_t(p)][(i + 1) % parts[size_t(p)].size()]}] = p;
    auto at = [&](int i) -> const TickPoint2& { return points[size_t(i)]; };
    std::vector<std::pair<int, int>> edges;
    for (const auto& [edge, part] : part_of)
        if (edge.first < edge.second && part_of.contains({edge.second, edge.first})) edges.push_back(edge);
    for (const auto& [a, b] : edges) {
        const int p = part_of[{a, b}], q = part_of[{b, a}];
        if (p == q) continue;
        Ring &first = parts[size_t(p)], &second = parts[size_t(q)];
        // From b round the first part to a, then round the second back to b.
        std::rotate(first.begin(), std::find(first.begin(), first.end(), b), first.end());
        std::rotate(second.begin(), std::find(second.begin(), second.end(), a), second.end());
        const size_t n = first.size(), m = second.size();
        if (turn(at(first[n - 2]), at(a), at(second[1])) < 0 ||
            turn(at(second[m - 2]), at(b), at(first[1])) < 0)
            continue;
        first.insert(first.end(), second.begin() + 1, second.end() - 1);
        for (size_t i = 0; i < first.size(); ++i) part_of[{first[i], first[(i + 1) % first.size()]}] = p;
        part_of.erase({a, b}), part_of.erase({b, a});
        second.clear();
    }
    std::erase_if(parts, [](const Ring& part) { return part.empty(); });
    // Corners on straight lines belong to neighbours; a part does not need them.
    for (Ring& part : parts)
        for (size_t i = 0; i < part.size() && part.size() > 3;) {
            const size_t n = part.size();
            if (turn(at(part[(i + n - 1) % n]), at(part[i]), at(part[(i + 1) % n])) == 0)
                part.erase(part.begin() + long(i)), i = 0;
            else
                ++i;
        }
    return parts;
}

} // namespace

__int128 turn(const TickPoint2& a, const TickPoint2& b, const TickPoint2& c) {
    return __int128(b.x - a.x) * (c.y - a.y) - __int128(b.y - a.y) * (c.x - a.x);
}

__int128 doubled_area(const Points& ring) {
    __int128 sum = 0;
    for (size_t i = 1; i + 1 < ring.size(); ++i) sum += turn(ring[0], ring[i], ring[i + 1]);
    return sum;
}

bool is_simple(const Rings& rings) {
    struct Edge {
        TickPoint2 a, b;
        size_t ring, index;
    };
    std::vector<Edge> edges;
    for (size_t r = 0; r < rings.size(); ++r) {
        if (rings[r].size() < 3) return false;
        for (size_t i = 0; i < rings[r].size(); ++i)
            edges.push_back({rings[r][i], rings[r][(i + 1) % rings[r].size()], r, i});
    }
    for (size_t i = 0; i < edges.size(); ++i) {
        const Edge& e = edges[i];
        if (e.a == e.b) return false;
        for (size_t k = i + 1; k < edges.size(); ++k) {
            const Edge& f = edges[k];
            const size_t n = rings[e.ring].size();
            const bool follows = e.ring == f.ring && (e.index + 1) % n == f.index;
            const bool leads = e.ring == f.ring && (f.index + 1) % n == e.index;
            if (follows || leads) {
                const TickPoint2& other = follows ? f.b : f.a;
                const TickPoint2& own = follows ? e.a : e.b;
                if (on_segment(e.a, e.b, other) || on_segment(f.a, f.b, own)) return false;
            } else if (meet(e.a, e.b, f.a, f.b)) {
                return false;
            }
        }
    }
    if (rings.empty() || doubled_area(rings[0]) <= 0) return false;
    for (size_t r = 1; r < rings.size(); ++r) {
        if (doubled_area(rings[r]) >= 0 || !contains(rings[0], rings[r][0])) return false;
        for (size_t other = 1; other < rings.size(); ++other)
            if (other != r && contains(rings[other], rings[r][0])) return false;
    }
    return true;
}

std::vector<std::vector<int>> convex_parts(const Rings& rings) {
    Points points;
    std::vector<Ring> indices;
    for (const auto& ring : rings) {
        Ring own(ring.size());
        std::iota(own.begin(), own.end(), int(points.size()));
        points.insert(points.end(), ring.begin(), ring.end());
        indices.push_back(std::move(own));
    }
    if (indices.empty()) return {};
    Ring outer = indices[0];
    // Holes farther right first: a bridge never has to pass one that is not in the ring yet.
    std::vector<Ring> holes(indices.begin() + 1, indices.end());
    auto rightmost = [&](const Ring& hole) {
        TickPoint2 best = points[size_t(hole[0])];
        for (const int i : hole) best = std::max(best, points[size_t(i)]);
        return best;
    };
    std::sort(holes.begin(), holes.end(),
              [&](const Ring& a, const Ring& b) { return rightmost(a) > rightmost(b); });
    for (size_t h = 0; h < holes.size(); ++h) EarCutter::bridge(outer, holes[h], points);
    return merged(EarCutter(points).triangles(outer, true), points);
}

std::vector<std::vector<int>> triangles_of(const Points& ring) {
    Ring all(ring.size());
    std::iota(all.begin(), all.end(), 0);
    return EarCutter(ring).triangles(std::move(all), false);
}

} // namespace rubble::geometry
