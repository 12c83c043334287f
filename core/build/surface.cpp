#include "build/surface.h"

#include <cmath>
#include <unordered_map>

#include "base/flat_index.h"
#include "base/parallel.h"

namespace rubble::build {

using geometry::Corner;
using geometry::LineName;
using geometry::PlaneTable;
using geometry::TickPoint;

namespace {

uint64_t mixed(uint64_t h, uint64_t v) {
    h = (h ^ v) * 0x9e3779b97f4a7c15u;
    return h ^ (h >> 29);
}

uint64_t hash_of(const TickPoint& p) {
    return mixed(mixed(mixed(0, uint64_t(p.x)), uint64_t(p.y)), uint64_t(p.z));
}

uint64_t hash_of(const LineName& name) {
    uint64_t h = 0;
    for (uint64_t r : name.residues) h = mixed(h, r);
    return h;
}

/// Corners by exact identity: two that round to the same tick but differ stay two.
class Corners {
public:
    Corners(const PlaneTable& planes, size_t expected) : planes_(planes), index_(expected) {}

    int index_of(const Corner& corner) {
        const TickPoint rounded = planes_.rounded(corner);
        const int fresh = int(corners.size());
        const int index = index_.find_or_add(hash_of(rounded), fresh, [&](int i) {
            return places[size_t(i)] == rounded && planes_.same(corners[size_t(i)], corner);
        });
        if (index == fresh) corners.push_back(corner), places.push_back(rounded);
        return index;
    }

    std::vector<Corner> corners;
    std::vector<TickPoint> places;

private:
    const PlaneTable& planes_;
    FlatIndex index_;
};

/// The corners at which edges end, gathered on the lines that carry the edges. Faces that meet in a line are
/// cut at the same corners of it, whichever planes name the line for them.
class EdgeLines {
    struct Line {
        std::vector<int> corners;
        int axis = 0; ///< along which it extends farthest
    };
    struct Pair {
        std::pair<int32_t, int32_t> planes;
        int line;
    };

    int line_of(int32_t a, int32_t b) {
        const LineName name = planes_.line(a, b);
        const int fresh = int(lines_.size());
        const int index =
            name_index_.find_or_add(hash_of(name), fresh, [&](int i) { return names_[size_t(i)] == name; });
        if (index == fresh) names_.push_back(name), lines_.emplace_back();
        return index;
    }
    const Vec3& place(int corner) const { return corners_.corners[size_t(corner)].at; }
    auto before(const Line& line) const {
        return [this, axis = line.axis](int a, int b) {
            const double pa = place(a)[axis], pb = place(b)[axis];
            return pa != pb ? pa < pb : a < b;
        };
    }

public:
    EdgeLines(const Corners& corners, const PlaneTable& planes) : corners_(corners), planes_(planes) {}

    /// Notes an edge in the meeting of two planes; gives its line.
    int add(int32_t support, int32_t other, int a, int b) {
        const std::pair<int32_t, int32_t> pair = std::minmax(support, other);
        const int fresh = int(pairs_.size());
        const int known = pair_index_.find_or_add(mixed(uint64_t(pair.first), uint64_t(pair.second)), fresh,
                                                  [&](int i) { return pairs_[size_t(i)].planes == pair; });
        if (known == fresh) pairs_.push_back({pair, line_of(support, other)});
        const int index = pairs_[size_t(known)].line;
        Line& line = lines_[size_t(index)];
        line.corners.push_back(a);
        line.corners.push_back(b);
        return index;
    }

    /// Puts the corners of every line in order along it.
    void sort() {
        parallel_for(
            lines_.size(),
            [&](size_t i) {
                Line& line = lines_[i];
                const Vec3 first = place(line.corners[0]);
                Vec3 way(0);
                for (int corner : line.corners) way = glm::max(way, glm::abs(place(corner) - first));
                line.axis = way.x >= way.y && way.x >= way.z ? 0 : way.y >= way.z ? 1 : 2;
                std::sort(line.corners.begin(), line.corners.end(), before(line));
                line.corners.erase(std::unique(line.corners.begin(), line.corners.end()), line.corners.end());
            },
            256);
    }

    /// Calls `visit(corner)` for the corners strictly between two of a line, in order from `a` to `b`.
    template <class F> void between(int index, int a, int b, F visit) const {
        const Line& line = lines_[size_t(index)];
        const auto at_a = std::lower_bound(line.corners.begin(), line.corners.end(), a, before(line)),
                   at_b = std::lower_bound(line.corners.begin(), line.corners.end(), b, before(line));
        if (at_a < at_b)
            for (auto i = at_a + 1; i < at_b; ++i) visit(*i);
        else
            for (auto i = at_a; i-- > at_b + 1;) visit(*i);
    }

private:
    const Corners& corners_;
    const PlaneTable& planes_;
    std::vector<Line> lines_;
    std::vector<LineName> names_;
    std::vector<Pair> pairs_;
    FlatIndex name_index_, pair_index_;
};

struct EdgeUse {
    int corner; ///< at which the edge starts
    int line;
};

struct RawFace {
    size_t begin, end; ///< of its edges
    const Fragment* fragment;
    int brush;
};

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
    size_t edge_count = 0;
    for (const auto& brush : solid.brushes)
        for (const Fragment& fragment : brush->fragments) edge_count += fragment.polygon.edges.size();
    Corners corners(planes, edge_count / 2);
    EdgeLines lines(corners, planes);
    std::vector<EdgeUse> uses;
    uses.reserve(edge_count);
    std::vector<RawFace> raw;
    for (int b = 0; b < int(solid.brushes.size()); ++b)
        for (const Fragment& fragment : solid.brushes[size_t(b)]->fragments) {
            const auto& edges = fragment.polygon.edges;
            const size_t begin = uses.size(), n = edges.size();
            for (const auto& edge : edges) uses.push_back({corners.index_of(edge.start), -1});
            for (size_t i = 0; i < n; ++i)
                uses[begin + i].line = lines.add(fragment.polygon.support.id, edges[i].plane,
                                                 uses[begin + i].corner, uses[begin + (i + 1) % n].corner);
            raw.push_back({begin, begin + n, &fragment, b});
        }
    lines.sort();

    // Rounding may bring several corners to one place; the surface's points are places.
    FlatIndex point_index(corners.places.size());
    Surface surface;
    std::vector<int> point_of(corners.corners.size());
    for (size_t i = 0; i < point_of.size(); ++i) {
        const TickPoint& place = corners.places[i];
        const int fresh = int(surface.points.size());
        point_of[i] = point_index.find_or_add(hash_of(place), fresh,
                                              [&](int k) { return surface.points[size_t(k)] == place; });
        if (point_of[i] == fresh) surface.points.push_back(place);
    }

    surface.faces.resize(raw.size());
    parallel_for(
        raw.size(),
        [&](size_t f) {
            const RawFace& face = raw[f];
            std::vector<int> loop;
            for (size_t i = face.begin; i < face.end; ++i) {
                const int a = uses[i].corner, b = uses[i + 1 < face.end ? i + 1 : face.begin].corner;
                loop.push_back(point_of[size_t(a)]);
                lines.between(uses[i].line, a, b,
                              [&](int inner) { loop.push_back(point_of[size_t(inner)]); });
            }
            loop = tidied(loop);
            Vec3 normal = planes.normal(face.fragment->polygon.support);
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
