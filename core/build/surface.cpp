#include "build/surface.h"

#include <cmath>
#include <unordered_map>
#include <utility>

#include "base/flat_index.h"
#include "base/parallel.h"

namespace rubble::build {

using geometry::Corner;
using geometry::LineName;
using geometry::PlaneTable;
using geometry::TickPoint;

namespace {

/// A part of a brush's surface with its seams.
struct PlacedPart {
    const std::shared_ptr<const FacePart>* part;
    int brush;
    const Seams* seams = nullptr;
};

/// The seams of all parts joined: corners that are one become one, lines that are one share their corners.
class JoinedSeams {
public:
    JoinedSeams(const PlaneTable& planes, const std::vector<PlacedPart>& parts) : planes_(planes) {
        std::vector<const Seams*> all;
        for (const PlacedPart& part : parts) all.push_back(part.seams);
        size_t corners = 0, lines = 0;
        for (const Seams* seams : all) {
            first_corner_.push_back(corners), first_line_.push_back(lines);
            corners += seams->corners.size(), lines += seams->lines.size();
        }
        corner_of_.resize(corners), line_of_.resize(lines);
        join_corners(all);
        join_lines(all);
        order_lines();
    }

    int corner(size_t part, int own) const { return corner_of_[first_corner_[part] + size_t(own)]; }
    int line(size_t part, int own) const { return line_of_[first_line_[part] + size_t(own)]; }
    /// Rounding may bring several corners to one place; the surface's points are places.
    int point(int corner) const { return point_of_[size_t(corner)]; }
    std::vector<TickPoint> take_points() { return std::move(points_); }

    /// Calls `visit(corner)` for the corners strictly between two of a line, in order from `a` to `b`.
    template <class F> void between(int index, int a, int b, F visit) const {
        const Line& line = lines_[size_t(index)];
        if (line.end - line.begin <= 2) return;
        const auto begin = ends_.begin() + long(line.begin), end = ends_.begin() + long(line.end);
        const auto at_a = std::lower_bound(begin, end, end_at(line, a)),
                   at_b = std::lower_bound(begin, end, end_at(line, b));
        if (at_a < at_b)
            for (auto i = at_a + 1; i < at_b; ++i) visit(i->corner);
        else
            for (auto i = at_a; i-- > at_b + 1;) visit(i->corner);
    }

private:
    struct Line {
        size_t begin = 0, end = 0; ///< of its corners in `ends_`
        int axis = 0;              ///< along which it extends farthest
    };

    /// An end of an edge by how far along its line it lies.
    struct End {
        double along;
        int corner;
        auto operator<=>(const End&) const = default;
    };

    const Vec3& place(int corner) const { return corners_[size_t(corner)]->at; }
    End end_at(const Line& line, int corner) const { return {place(corner)[line.axis], corner}; }

    /// Points by place; the corners of one place, seldom more than one, follow each other in a chain.
    void join_corners(const std::vector<const Seams*>& all) {
        FlatIndex index(corner_of_.size() / 2);
        std::vector<int> chain, next;
        size_t at = 0;
        for (const Seams* seams : all)
            for (size_t i = 0; i < seams->corners.size(); ++i, ++at) {
                const Corner& corner = seams->corners[i];
                const TickPoint& place = seams->places[i];
                const int fresh = int(points_.size());
                const int point = index.find_or_add(hash_of(place), fresh,
                                                    [&](int k) { return points_[size_t(k)] == place; });
                if (point == fresh) points_.push_back(place), chain.push_back(-1);
                int known = chain[size_t(point)];
                while (known >= 0 && !planes_.same(*corners_[size_t(known)], corner))
                    known = next[size_t(known)];
                if (known < 0) {
                    known = int(corners_.size());
                    corners_.push_back(&corner), point_of_.push_back(point);
                    next.push_back(std::exchange(chain[size_t(point)], known));
                }
                corner_of_[at] = known;
            }
    }

    void join_lines(const std::vector<const Seams*>& all) {
        FlatIndex index(line_of_.size() / 2);
        std::vector<const LineName*> names;
        size_t at = 0;
        for (const Seams* seams : all)
            for (size_t i = 0; i < seams->lines.size(); ++i, ++at) {
                const LineName& name = seams->lines[i];
                const int fresh = int(names.size());
                line_of_[at] =
                    index.find_or_add(hash_of(name), fresh, [&](int k) { return *names[size_t(k)] == name; });
                if (line_of_[at] == fresh) names.push_back(&name), lines_.emplace_back();
                lines_[size_t(line_of_[at])].end += seams->line_ends[i].size();
            }
        size_t sum = 0;
        for (Line& line : lines_) {
            const size_t count = line.end;
            line.begin = line.end = sum;
            sum += count;
        }
        ends_.resize(sum);
        for (size_t p = 0; p < all.size(); ++p) {
            const Seams& seams = *all[p];
            for (size_t i = 0; i < seams.lines.size(); ++i)
                for (int own : seams.line_ends[i])
                    ends_[lines_[size_t(line(p, int(i)))].end++].corner = corner(p, own);
        }
    }

    /// Puts the corners of every line in order along it, each once.
    void order_lines() {
        parallel_for(
            lines_.size(),
            [&](size_t i) {
                Line& line = lines_[i];
                const auto begin = ends_.begin() + long(line.begin), end = ends_.begin() + long(line.end);
                const Vec3 first = place(begin->corner);
                Vec3 way(0);
                for (auto at = begin; at != end; ++at)
                    way = glm::max(way, glm::abs(place(at->corner) - first));
                line.axis = way.x >= way.y && way.x >= way.z ? 0 : way.y >= way.z ? 1 : 2;
                for (auto at = begin; at != end; ++at) *at = end_at(line, at->corner);
                std::sort(begin, end);
                line.end = size_t(std::unique(begin, end) - ends_.begin());
            },
            256);
    }

    const PlaneTable& planes_;
    std::vector<size_t> first_corner_, first_line_; ///< for each part, in the next two
    std::vector<int> corner_of_, line_of_;
    std::vector<const Corner*> corners_;
    std::vector<int> point_of_; ///< for each corner
    std::vector<TickPoint> points_;
    std::vector<Line> lines_;
    std::vector<End> ends_;
};

/// A fragment with the place of its edges in its part's seams.
struct RawFace {
    const Fragment* fragment;
    size_t part, first_use;
};

/// Takes corners that follow themselves and spikes that lead nowhere out of a loop.
void tidy(std::vector<int>& loop) {
    size_t kept = 0;
    for (const int corner : loop) {
        if (kept > 0 && loop[kept - 1] == corner) continue;
        if (kept > 1 && loop[kept - 2] == corner)
            --kept;
        else
            loop[kept++] = corner;
    }
    while (kept > 1 && loop[0] == loop[kept - 1]) --kept;
    size_t first = 0;
    while (kept - first >= 3 && loop[first + 1] == loop[kept - 1]) ++first, --kept;
    loop.resize(kept);
    loop.erase(loop.begin(), loop.begin() + long(first));
    if (loop.size() < 3) loop.clear();
}

Surface put_together(const PlaneTable& planes, const std::vector<PlacedPart>& parts) {
    JoinedSeams seams(planes, parts);
    std::vector<RawFace> raw;
    for (size_t p = 0; p < parts.size(); ++p) {
        size_t use = 0;
        for (const Fragment& fragment : (*parts[p].part)->fragments) {
            raw.push_back({&fragment, p, use});
            use += fragment.polygon.edges.size();
        }
    }
    Surface surface;
    surface.faces.resize(raw.size());
    parallel_for(
        raw.size(),
        [&](size_t f) {
            const auto& [fragment, part, first] = raw[f];
            const auto& uses = parts[part].seams->uses;
            const size_t n = fragment->polygon.edges.size();
            std::vector<int> loop;
            loop.reserve(n + 4);
            for (size_t i = 0; i < n; ++i) {
                const Seams::Use &here = uses[first + i], &next = uses[first + (i + 1 < n ? i + 1 : 0)];
                const int a = seams.corner(part, here.corner), b = seams.corner(part, next.corner);
                loop.push_back(seams.point(a));
                seams.between(seams.line(part, here.line), a, b,
                              [&](int inner) { loop.push_back(seams.point(inner)); });
            }
            tidy(loop);
            Vec3 normal = planes.normal(fragment->polygon.support);
            if (fragment->reversed) {
                std::reverse(loop.begin(), loop.end());
                normal = -normal;
            }
            surface.faces[f] = {std::move(loop), normal, parts[part].brush, fragment->side,
                                fragment->material};
        },
        64);
    surface.points = seams.take_points();
    std::erase_if(surface.faces, [](const Surface::Face& face) { return face.loop.empty(); });
    return surface;
}

} // namespace

Surface SurfaceBuilder::build(const Solid& solid) {
    if (!solid.planes) return {};
    std::vector<PlacedPart> parts;
    for (size_t b = 0; b < solid.brushes.size(); ++b)
        for (const auto& part : solid.brushes[b]->parts) parts.push_back({&part, int(b)});
    std::vector<std::shared_ptr<const Known>> known(parts.size());
    parallel_for(
        parts.size(),
        [&](size_t p) {
            const auto& part = *parts[p].part;
            const auto before = known_.find(part.get());
            known[p] =
                before != known_.end()
                    ? before->second
                    : std::make_shared<const Known>(Known{part, seams_of(part->fragments, *solid.planes)});
        },
        8);
    if (known_.size() > 2 * known.size() + 64) known_.clear(); // mostly parts long gone
    for (size_t p = 0; p < parts.size(); ++p) {
        known_.emplace(known[p]->part.get(), known[p]);
        parts[p].seams = &known[p]->seams;
    }
    return put_together(*solid.planes, parts);
}

Surface surface_of(const Solid& solid) { return SurfaceBuilder().build(solid); }

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
