#include "build/numbered_surface.h"

#include <algorithm>
#include <numeric>

#include "base/flat_index.h"
#include "build/edge_key.h"
#include "build/seams.h"

namespace rubble::build {

using geometry::TickPoint;

NumberedSurface numbered(const Surface& surface) {
    NumberedSurface out;
    FlatIndex index;
    for_each_face(surface, [&](int brush, const SurfacePart& part, const SurfaceFace& face) {
        std::vector<int> loop;
        for (const SurfaceCorner& own : part.loop(face)) {
            const TickPoint& place = part.points[size_t(own.point)];
            const int fresh = int(out.points.size());
            loop.push_back(index.find_or_add(hash_of(place), fresh,
                                             [&](int i) { return out.points[size_t(i)] == place; }));
            if (loop.back() == fresh) out.points.push_back(place);
        }
        out.faces.push_back({std::move(loop), brush, &part, &face});
    });
    return out;
}

namespace {

/// Sets that grow together.
class Sets {
public:
    explicit Sets(size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0); }
    int root(int i) {
        while (parent_[size_t(i)] != i) i = parent_[size_t(i)] = parent_[size_t(parent_[size_t(i)])];
        return i;
    }
    void join(int a, int b) { parent_[size_t(root(a))] = root(b); }

private:
    std::vector<int> parent_;
};

bool go_on(const SurfaceFace& a, const SurfaceFace& b) {
    return a.plane == b.plane && a.material == b.material && glm::dot(a.normal, b.normal) > 0;
}

} // namespace

Areas areas_of(const NumberedSurface& surface) {
    struct Edge {
        uint64_t key;
        int face, next; ///< the next face with that edge
    };
    Sets sets(surface.faces.size());
    std::vector<Edge> edges;
    FlatIndex index;
    for (size_t f = 0; f < surface.faces.size(); ++f) {
        const auto& [loop, brush, part, face] = surface.faces[f];
        const auto corners = part->loop(*face);
        for (size_t i = 0; i < loop.size(); ++i) {
            if (!corners[i].inner) continue;
            const int from = loop[i], to = loop[i + 1 < loop.size() ? i + 1 : 0];
            const uint64_t key = edge_key(std::min(from, to), std::max(from, to));
            const int fresh = int(edges.size());
            const int at = index.find_or_add(hash_of_key(key), fresh,
                                             [&](int k) { return edges[size_t(k)].key == key; });
            if (at == fresh) {
                edges.push_back({key, int(f), -1});
                continue;
            }
            for (int k = at; k >= 0; k = edges[size_t(k)].next)
                if (go_on(*surface.faces[size_t(edges[size_t(k)].face)].face, *face))
                    sets.join(int(f), edges[size_t(k)].face);
            edges.push_back({0, int(f), edges[size_t(at)].next});
            edges[size_t(at)].next = fresh;
        }
    }
    Areas areas;
    std::vector<int> number(surface.faces.size(), -1);
    for (size_t f = 0; f < surface.faces.size(); ++f) {
        int& own = number[size_t(sets.root(int(f)))];
        if (own < 0) own = areas.count++;
        areas.of_face.push_back(own);
    }
    return areas;
}

} // namespace rubble::build
