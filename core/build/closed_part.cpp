#include "build/closed_part.h"

#include <algorithm>

#include <boost/container/small_vector.hpp>

namespace rubble::build {

using geometry::TickPoint;

namespace {

/// The outward side of a fragment's plane, as one number.
int64_t outward_plane(const Fragment& fragment) {
    return int64_t(fragment.polygon.support.id) * 2 +
           (fragment.polygon.support.flipped != fragment.reversed);
}

/// The edges of the neighbours that run along the lines of one part.
class Closer {
public:
    Closer(const SeamedPart& own, std::span<const SeamedPart> neighbours) : own_(own) {
        const size_t lines = own.seams->lines().size();
        along_.resize(lines);
        for (size_t i = 0; i < lines; ++i) along_[i].push_back({&own, &own.seams->lines()[i]});
        const Seams::Line* first = own.seams->lines().data();
        for (const SeamedPart& other : neighbours)
            for_common_lines(*own.seams, *other.seams, [&](const Seams::Line& line, const Seams::Line& theirs) {
                along_[size_t(&line - first)].push_back({&other, &theirs});
            });
        places_.resize(lines);
        for (size_t i = 0; i < lines; ++i) order_places(i);
    }

    /// The loop of a fragment whose first edge is `first_use`, with what goes on beyond each edge.
    SurfaceFace face(const Fragment& fragment, size_t first_use, std::vector<TickPoint>& loop) const {
        SurfaceFace out;
        const auto& uses = own_.seams->uses();
        for (size_t i = 0; i < fragment.polygon.edges.size(); ++i) add_edge(uses[first_use + i], fragment, loop, out);
        tidy(loop, out.inner);
        return out;
    }

private:
    struct Along {
        const SeamedPart* part;
        const Seams::Line* line;
    };

    void order_places(size_t line) {
        const auto& way = own_.seams->lines()[line].way;
        auto& places = places_[line];
        for (const Along& along : along_[line]) {
            const auto ends = along.part->seams->ends_on(*along.line);
            places.insert(places.end(), ends.begin(), ends.end());
        }
        if (along_[line].size() == 1) return; // in order as it came
        std::sort(places.begin(), places.end(),
                  [&](const TickPoint& a, const TickPoint& b) { return before(a, b, way); });
        places.erase(std::unique(places.begin(), places.end()), places.end());
    }

    void add_edge(const Seams::Use& use, const Fragment& fragment, std::vector<TickPoint>& loop,
                  SurfaceFace& out) const {
        const Seams::Line& line = own_.seams->lines()[size_t(use.line)];
        const auto& places = places_[size_t(use.line)];
        auto index = [&](int place) {
            return std::lower_bound(
                       places.begin(), places.end(), own_.seams->places()[size_t(place)],
                       [&](const TickPoint& a, const TickPoint& b) { return before(a, b, line.way); }) -
                   places.begin();
        };
        const long from = index(use.from), to = index(use.to), step = from < to ? 1 : -1;
        for (long i = from; i != to; i += step) {
            loop.push_back(places[size_t(i)]);
            const long low = std::min(i, i + step);
            out.inner.push_back(goes_on(use, fragment, places[size_t(low)], places[size_t(low + 1)]));
        }
    }

    /// Whether beyond a piece of an edge, from `low` to `high` along its line, a face of the same plane and
    /// material goes on.
    bool goes_on(const Seams::Use& use, const Fragment& fragment, const TickPoint& low,
                 const TickPoint& high) const {
        const auto& way = own_.seams->lines()[size_t(use.line)].way;
        for (const Along& along : along_[size_t(use.line)])
            for (const int i : along.part->seams->uses_on(*along.line)) {
                const Seams::Use& other = along.part->seams->uses()[size_t(i)];
                const Fragment& theirs = along.part->part->fragments[size_t(other.fragment)];
                // Both seen from outside: edges of two faces side by side run against each other.
                if ((other.ahead != theirs.reversed) == (use.ahead != fragment.reversed)) continue;
                if (outward_plane(theirs) != outward_plane(fragment) || theirs.material != fragment.material)
                    continue;
                const auto& places = along.part->seams->places();
                const TickPoint &a = places[size_t(other.ahead ? other.from : other.to)],
                                &b = places[size_t(other.ahead ? other.to : other.from)];
                if (!before(low, a, way) && !before(b, high, way)) return true;
            }
        return false;
    }

    /// Takes corners that follow themselves and spikes that lead nowhere out of a loop.
    static void tidy(std::vector<TickPoint>& loop, std::vector<bool>& inner) {
        size_t kept = 0;
        for (size_t i = 0; i < loop.size(); ++i) {
            if (kept > 0 && loop[kept - 1] == loop[i]) {
                inner[kept - 1] = inner[i];
            } else if (kept > 1 && loop[kept - 2] == loop[i]) {
                --kept;
                inner[kept - 1] = inner[i];
            } else {
                loop[kept] = loop[i], inner[kept] = inner[i];
                ++kept;
            }
        }
        while (kept > 1 && loop[0] == loop[kept - 1]) --kept;
        size_t first = 0;
        while (kept - first >= 3 && loop[first + 1] == loop[kept - 1]) ++first, --kept;
        if (kept - first < 3) kept = first;
        loop.resize(kept), inner.resize(kept);
        loop.erase(loop.begin(), loop.begin() + long(first));
        inner.erase(inner.begin(), inner.begin() + long(first));
    }

    const SeamedPart& own_;
    std::vector<boost::container::small_vector<Along, 4>> along_;        ///< for each line
    std::vector<boost::container::small_vector<TickPoint, 6>> places_; ///< for each line, in order along it
};

} // namespace

SurfacePart closed(const SeamedPart& own, std::span<const SeamedPart> neighbours,
                   const geometry::PlaneTable& planes) {
    const Closer closer(own, neighbours);
    SurfacePart out;
    FlatIndex index(own.seams->places().size());
    std::vector<TickPoint> loop;
    size_t use = 0;
    for (const Fragment& fragment : own.part->fragments) {
        loop.clear();
        SurfaceFace face = closer.face(fragment, use, loop);
        use += fragment.polygon.edges.size();
        if (loop.empty()) continue;
        for (const TickPoint& place : loop) {
            const int fresh = int(out.points.size());
            face.loop.push_back(index.find_or_add(hash_of(place), fresh,
                                                  [&](int i) { return out.points[size_t(i)] == place; }));
            if (face.loop.back() == fresh) out.points.push_back(place);
        }
        face.normal = planes.normal(fragment.polygon.support);
        face.plane = fragment.polygon.support.id;
        face.side = fragment.side;
        face.material = fragment.material;
        if (fragment.reversed) {
            // The edge from a point is now the one that came to it.
            std::reverse(face.loop.begin(), face.loop.end());
            std::reverse(face.inner.begin(), face.inner.end());
            std::rotate(face.inner.begin(), face.inner.begin() + 1, face.inner.end());
            face.normal = -face.normal;
        }
        out.faces.push_back(std::move(face));
    }
    return out;
}

} // namespace rubble::build
