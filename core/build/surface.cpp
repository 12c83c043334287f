#include "build/surface.h"

#include <cmath>
#include <unordered_map>

#include "base/parallel.h"

namespace rubble::build {

using geometry::Corner;
using geometry::PlaneTable;
using geometry::Side;
using geometry::TickPoint;

namespace {

struct TickHash {
    size_t operator()(const TickPoint& p) const {
        uint64_t h = uint64_t(p.x) * 0x9e3779b97f4a7c15u;
        h = (h ^ uint64_t(p.y)) * 0xff51afd7ed558ccdu;
        h = (h ^ (h >> 29) ^ uint64_t(p.z)) * 0xc4ceb9fe1a85ec53u;
        return h ^ (h >> 32);
    }
};

/// Corners by exact identity: two that round to the same tick but differ stay two.
class Corners {
public:
    explicit Corners(const PlaneTable& planes) : planes_(planes) {}

    int index_of(const Corner& corner) {
        const TickPoint rounded = planes_.rounded(corner);
        auto& here = by_place_[rounded];
        for (int index : here)
            if (planes_.same(corners[size_t(index)], corner)) return index;
        here.push_back(int(corners.size()));
        corners.push_back(corner);
        places.push_back(rounded);
        return here.back();
    }

    std::vector<Corner> corners;
    std::vector<TickPoint> places;

private:
    const PlaneTable& planes_;
    std::unordered_map<TickPoint, boost::container::small_vector<int, 1>, TickHash> by_place_;
};

/// Corners in a hashed grid, to be found along an edge.
class CornerGrid {
public:
    explicit CornerGrid(const Corners& corners) : corners_(corners) {
        for (int i = 0; i < int(corners.corners.size()); ++i)
            cells_[cell_of(corners.corners[size_t(i)].at)].push_back(i);
    }

    /// Calls `visit(index)` for every corner in the cells that the edge passes through or grazes.
    template <class F> void along(const Vec3& a, const Vec3& b, F visit) const {
        const Vec3 way = b - a;
        int main = 0;
        for (int axis = 1; axis < 3; ++axis)
            if (std::abs(way[axis]) > std::abs(way[main])) main = axis;
        const double low = std::min(a[main], b[main]), high = std::max(a[main], b[main]);
        for (int64_t slab = index(low - k_margin); slab <= index(high + k_margin); ++slab) {
            Vec3 from(0), to(0);
            for (int axis = 0; axis < 3; ++axis) {
                const double begin = std::clamp(double(slab) * k_cell - k_margin, low, high);
                const double end = std::clamp(double(slab + 1) * k_cell + k_margin, low, high);
                const double at_begin =
                    way[main] == 0 ? a[axis] : a[axis] + way[axis] * ((begin - a[main]) / way[main]);
                const double at_end =
                    way[main] == 0 ? a[axis] : a[axis] + way[axis] * ((end - a[main]) / way[main]);
                from[axis] = std::min(at_begin, at_end) - k_margin;
                to[axis] = std::max(at_begin, at_end) + k_margin;
            }
            TickPoint first{index(from.x), index(from.y), index(from.z)},
                last{index(to.x), index(to.y), index(to.z)};
            (main == 0 ? first.x : main == 1 ? first.y : first.z) = slab;
            (main == 0 ? last.x : main == 1 ? last.y : last.z) = slab;
            for (int64_t x = first.x; x <= last.x; ++x)
                for (int64_t y = first.y; y <= last.y; ++y)
                    for (int64_t z = first.z; z <= last.z; ++z)
                        if (const auto cell = cells_.find({x, y, z}); cell != cells_.end())
                            for (int i : cell->second) visit(i);
        }
    }

private:
    static constexpr double k_cell = 1.5e6; // ticks: of the size of a usual edge
    static constexpr double k_margin = 4;   // ticks
    static int64_t index(double v) { return int64_t(std::floor(v / k_cell)); }
    static TickPoint cell_of(const Vec3& p) { return {index(p.x), index(p.y), index(p.z)}; }

    const Corners& corners_;
    std::unordered_map<TickPoint, std::vector<int>, TickHash> cells_;
};

struct RawFace {
    std::vector<int> loop;
    std::vector<int32_t> planes; ///< of the edge that starts at each corner
    const Fragment* fragment;
    int brush;
};

/// Corners strictly inside the edge from `a` to `b`, which lies in two planes, in order from a to b.
std::vector<int> inner_corners(int a, int b, int32_t support, int32_t other, const Corners& corners,
                               const CornerGrid& grid, const PlaneTable& planes) {
    const Vec3 from = corners.corners[size_t(a)].at, way = corners.corners[size_t(b)].at - from;
    const double length2 = glm::dot(way, way);
    std::vector<std::pair<double, int>> found;
    grid.along(from, from + way, [&](int i) {
        if (i == a || i == b) return;
        const Corner& corner = corners.corners[size_t(i)];
        const Vec3 out = corner.at - from;
        const double t = glm::dot(out, way);
        if (t <= 0 || t >= length2) return;
        const Vec3 off = glm::cross(out, way);
        const double reach =
            4 + corner.error + corners.corners[size_t(a)].error + corners.corners[size_t(b)].error;
        if (glm::dot(off, off) > reach * reach * length2) return;
        if (planes.side(corner, support) != Side::on || planes.side(corner, other) != Side::on) return;
        found.emplace_back(t, i);
    });
    std::sort(found.begin(), found.end());
    found.erase(std::unique(found.begin(), found.end()), found.end());
    std::vector<int> out;
    for (const auto& [t, i] : found) out.push_back(i);
    return out;
}

/// The loop without corners that follow themselves and without spikes that lead nowhere.
std::vector<int> tidied(const std::vector<int>& loop) {
    std::vector<int> out;
    for (int i : loop) {
        if (!out.empty() && out.back() == i) continue;
        if (out.size() >= 2 && out[out.size() - 2] == i) {
            out.pop_back();
            continue;
        }
        out.push_back(i);
    }
    while (out.size() >= 2 && out.front() == out.back()) out.pop_back();
    while (out.size() >= 3 && out[1] == out.back()) out.erase(out.begin()), out.pop_back();
    return out.size() < 3 ? std::vector<int>{} : out;
}

} // namespace

Surface surface_of(const Solid& solid) {
    if (!solid.planes) return {};
    const PlaneTable& planes = *solid.planes;
    Corners corners(planes);
    std::vector<RawFace> raw;
    for (int b = 0; b < int(solid.brushes.size()); ++b)
        for (const Fragment& fragment : solid.brushes[size_t(b)]->fragments) {
            RawFace face{{}, {}, &fragment, b};
            for (const auto& edge : fragment.polygon.edges) {
                face.loop.push_back(corners.index_of(edge.start));
                face.planes.push_back(edge.plane);
            }
            raw.push_back(std::move(face));
        }

    const CornerGrid grid(corners);
    // Rounding may bring several corners to one place; the surface's points are places.
    std::unordered_map<TickPoint, int, TickHash> point_at;
    Surface surface;
    std::vector<int> point_of(corners.corners.size());
    for (size_t i = 0; i < point_of.size(); ++i) {
        const auto [place, added] = point_at.try_emplace(corners.places[i], int(surface.points.size()));
        if (added) surface.points.push_back(corners.places[i]);
        point_of[i] = place->second;
    }

    surface.faces.resize(raw.size());
    parallel_for(
        raw.size(),
        [&](size_t f) {
            const RawFace& face = raw[f];
            const geometry::PlaneRef support = face.fragment->polygon.support;
            std::vector<int> loop;
            for (size_t i = 0; i < face.loop.size(); ++i) {
                const int a = face.loop[i], b = face.loop[(i + 1) % face.loop.size()];
                loop.push_back(point_of[size_t(a)]);
                if (a == b) continue;
                for (int inner : inner_corners(a, b, support.id, face.planes[i], corners, grid, planes))
                    loop.push_back(point_of[size_t(inner)]);
            }
            loop = tidied(loop);
            Vec3 normal = planes.normal(support);
            if (face.fragment->reversed) {
                std::reverse(loop.begin(), loop.end());
                normal = -normal;
            }
            surface.faces[f] = {std::move(loop), normal, face.brush, face.fragment->side,
                                face.fragment->material};
        },
        64);
    std::erase_if(surface.faces, [](const Surface::Face& face) { return face.loop.empty(); });
    return surface;
}

SurfaceFacts facts_of(const Surface& surface) {
    SurfaceFacts facts;
    facts.faces = surface.faces.size();
    std::unordered_map<uint64_t, int> balance;
    const Vec3 origin = surface.points.empty() ? Vec3(0) : surface.point_m(0);
    double six = 0;
    for (const auto& face : surface.faces) {
        Vec3 twice_area(0);
        const Vec3 first = surface.point_m(face.loop[0]) - origin;
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const int a = face.loop[i], b = face.loop[(i + 1) % face.loop.size()];
            const uint64_t low = uint64_t(std::min(a, b)), high = uint64_t(std::max(a, b));
            balance[low << 32 | high] += a < b ? 1 : -1;
            const Vec3 p = surface.point_m(a) - origin, q = surface.point_m(b) - origin;
            twice_area += glm::cross(p - first, q - first);
            six += glm::dot(first, glm::cross(p, q));
        }
        facts.area_m2 += glm::length(twice_area) / 2;
    }
    facts.volume_m3 = six / 6;
    for (const auto& [edge, count] : balance) facts.open_edges += size_t(std::abs(count));
    return facts;
}

std::vector<std::array<int, 3>> triangles_of(const Surface& surface, const Surface::Face& face) {
    std::vector<std::array<int, 3>> out;
    std::vector<int> rest = face.loop;
    auto doubled_area = [&](int a, int b, int c) {
        const Vec3 p = surface.point_m(a);
        return glm::dot(glm::cross(surface.point_m(b) - p, surface.point_m(c) - p), face.normal);
    };
    // The loop is convex up to corners on straight edges: the fullest ear first leaves no flat triangle
    // before the last.
    while (rest.size() > 3) {
        size_t best = 0;
        double best_area = -1;
        for (size_t i = 0; i < rest.size(); ++i) {
            const size_t n = rest.size();
            const double ear = doubled_area(rest[(i + n - 1) % n], rest[i], rest[(i + 1) % n]);
            // An ear must not leave only points of one line behind.
            double left = 0;
            for (size_t k = 0; k < n; ++k)
                if (k != i && (k + 1) % n != i)
                    left += doubled_area(rest[(i + 1) % n], rest[k], rest[(k + 1) % n]);
            if (ear > best_area && left > ear * 1e-9 && ear > 0) best_area = ear, best = i;
        }
        if (best_area <= 0) break;
        const size_t n = rest.size();
        out.push_back({rest[(best + n - 1) % n], rest[best], rest[(best + 1) % n]});
        rest.erase(rest.begin() + long(best));
    }
    if (rest.size() == 3) out.push_back({rest[0], rest[1], rest[2]});
    return out;
}

} // namespace rubble::build
