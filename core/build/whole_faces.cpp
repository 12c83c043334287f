#include "build/whole_faces.h"

#include <algorithm>
#include <map>
#include <set>

#include "build/edge_key.h"
#include "build/numbered_surface.h"

namespace rubble::build {

using geometry::TickPoint;

namespace {

/// Sees places of a plane along the axis that it faces most, so that what runs counter-clockwise does so.
class Seen {
public:
    explicit Seen(const Vec3& normal) {
        const Vec3 size = glm::abs(normal);
        axis_ = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
        mirrored_ = normal[axis_] < 0;
    }
    std::pair<int64_t, int64_t> way(const TickPoint& a, const TickPoint& b) const {
        const int64_t x = b.x - a.x, y = b.y - a.y, z = b.z - a.z;
        const auto [u, v] = axis_ == 0 ? std::pair(y, z) : axis_ == 1 ? std::pair(z, x) : std::pair(x, y);
        return mirrored_ ? std::pair(v, u) : std::pair(u, v);
    }

private:
    int axis_;
    bool mirrored_;
};

/// Whether, turning clockwise from `back`, the way `a` comes before `b`.
bool comes_before(std::pair<int64_t, int64_t> back, std::pair<int64_t, int64_t> a,
                  std::pair<int64_t, int64_t> b) {
    const auto cross = [](const auto& u, const auto& v) {
        return __int128(u.first) * v.second - __int128(u.second) * v.first;
    };
    const auto dot = [](const auto& u, const auto& v) {
        return __int128(u.first) * v.first + __int128(u.second) * v.second;
    };
    // Right of `back` first, then straight on, then left of it; a way back into it comes last.
    const auto part = [&](const auto& way) {
        const __int128 side = cross(back, way);
        return side < 0 ? 0 : side > 0 ? 2 : dot(back, way) < 0 ? 1 : 3;
    };
    if (part(a) != part(b)) return part(a) < part(b);
    return cross(a, b) < 0;
}

/// The edges around one area, put together into rings.
class Tracer {
public:
    Tracer(const NumberedSurface& surface, const Vec3& normal) : surface_(surface), seen_(normal) {}

    void add(int from, int to) { ways_[from].push_back(to); }

    std::vector<std::vector<TickPoint>> rings() {
        std::vector<std::vector<TickPoint>> out;
        while (!ways_.empty()) out.push_back(ring_from(ways_.begin()->first));
        return out;
    }

private:
    const TickPoint& at(int point) const { return surface_.points[size_t(point)]; }

    std::vector<TickPoint> ring_from(int start) {
        std::vector<TickPoint> ring;
        int here = start, before = -1;
        do {
            ring.push_back(at(here));
            const int next = take(here, before);
            if (next < 0) break; // an area of a surface that is not closed
            before = here, here = next;
        } while (here != start);
        return ring;
    }

    /// Where the area meets itself in a corner, the ring stays with the part that it goes around.
    int take(int from, int before) {
        const auto found = ways_.find(from);
        if (found == ways_.end()) return -1;
        auto& ways = found->second;
        auto best = ways.begin();
        if (before >= 0)
            best = std::min_element(ways.begin(), ways.end(), [&](int a, int b) {
                const auto back = seen_.way(at(from), at(before));
                return comes_before(back, seen_.way(at(from), at(a)), seen_.way(at(from), at(b)));
            });
        const int to = *best;
        ways.erase(best);
        if (ways.empty()) ways_.erase(found);
        return to;
    }

    const NumberedSurface& surface_;
    Seen seen_;
    std::map<int, std::vector<int>> ways_; ///< from each point
};

double area_of(const std::vector<std::vector<TickPoint>>& rings, const Vec3& normal) {
    Vec3 twice(0);
    const Vec3 origin = geometry::to_metres(rings[0][0]);
    for (const auto& ring : rings)
        for (size_t i = 0; i < ring.size(); ++i)
            twice += glm::cross(geometry::to_metres(ring[i]) - origin,
                                geometry::to_metres(ring[(i + 1) % ring.size()]) - origin);
    return glm::dot(twice, normal) / 2;
}

double length_of(const std::vector<TickPoint>& ring) {
    double sum = 0;
    for (size_t i = 0; i < ring.size(); ++i)
        sum += glm::length(geometry::to_metres(ring[(i + 1) % ring.size()]) - geometry::to_metres(ring[i]));
    return sum;
}

WholeFace whole_face(const NumberedSurface& surface, const std::vector<int>& pieces) {
    const SurfaceFace& first = *surface.faces[size_t(pieces[0])].face;
    WholeFace out;
    out.normal = first.normal, out.plane = first.plane, out.material = first.material;
    // Edges that two pieces share, one each way, lie inside.
    std::map<uint64_t, int> edges;
    std::set<int> brushes;
    for (const int f : pieces) {
        const auto& loop = surface.faces[size_t(f)].loop;
        brushes.insert(surface.faces[size_t(f)].brush);
        for (size_t i = 0; i < loop.size(); ++i) {
            const int from = loop[i], to = loop[i + 1 < loop.size() ? i + 1 : 0];
            const auto back = edges.find(edge_key(to, from));
            if (back == edges.end())
                ++edges[edge_key(from, to)];
            else if (--back->second == 0)
                edges.erase(back);
        }
    }
    Tracer tracer(surface, out.normal);
    for (const auto& [key, count] : edges)
        for (int i = 0; i < count; ++i) tracer.add(int(key >> 32), int(uint32_t(key)));
    out.rings = tracer.rings();
    out.brushes.assign(brushes.begin(), brushes.end());
    for (const auto& ring : out.rings) out.around_m += length_of(ring);
    if (!out.rings.empty()) out.area_m2 = area_of(out.rings, out.normal);
    return out;
}

} // namespace

Box3 WholeFace::box() const {
    Box3 box;
    for (const auto& ring : rings)
        for (const TickPoint& p : ring) box.add(geometry::to_metres(p));
    return box;
}

std::vector<WholeFace> whole_faces_of(const Surface& surface) {
    const NumberedSurface all = numbered(surface);
    const Areas areas = areas_of(all);
    std::vector<std::vector<int>> pieces(size_t(areas.count));
    for (size_t f = 0; f < all.faces.size(); ++f) pieces[size_t(areas.of_face[f])].push_back(int(f));
    std::vector<WholeFace> out;
    out.reserve(pieces.size());
    for (const auto& area : pieces) out.push_back(whole_face(all, area));
    return out;
}

} // namespace rubble::build
