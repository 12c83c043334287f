#include "build/seams.h"

#include <algorithm>

#include "base/flat_index.h"
#include "build/solid.h"

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

class SeamFinder {
public:
    SeamFinder(const PlaneTable& planes, size_t edges)
        : planes_(planes),
          corner_index_(edges / 2),
          pair_index_(edges / 2),
          line_index_(edges / 2) {
        out_.uses.reserve(edges);
    }

    void add(const Polygon& polygon) {
        const size_t begin = out_.uses.size(), n = polygon.edges.size();
        for (const auto& edge : polygon.edges)
            out_.uses.push_back({corner_of(edge.start), line_of(polygon.support.id, edge.plane)});
        for (size_t i = 0; i < n; ++i) {
            auto& ends = out_.line_ends[size_t(out_.uses[begin + i].line)];
            ends.push_back(out_.uses[begin + i].corner);
            ends.push_back(out_.uses[begin + (i + 1 < n ? i + 1 : 0)].corner);
        }
    }

    Seams finish() {
        for (auto& ends : out_.line_ends) {
            std::sort(ends.begin(), ends.end());
            ends.erase(std::unique(ends.begin(), ends.end()), ends.end());
        }
        return std::move(out_);
    }

private:
    /// Corners by exact identity: two that round to the same tick but differ stay two.
    int corner_of(const Corner& corner) {
        const TickPoint place = planes_.rounded(corner);
        const int fresh = int(out_.corners.size());
        const int index = corner_index_.find_or_add(hash_of(place), fresh, [&](int i) {
            return out_.places[size_t(i)] == place && planes_.same(out_.corners[size_t(i)], corner);
        });
        if (index == fresh) out_.corners.push_back(corner), out_.places.push_back(place);
        return index;
    }

    /// The name of a line costs much to find, so it is looked for once for each pair of planes.
    int line_of(int32_t support, int32_t other) {
        const std::pair<int32_t, int32_t> pair = std::minmax(support, other);
        const int fresh_pair = int(pairs_.size());
        const int known =
            pair_index_.find_or_add(mixed(uint64_t(pair.first), uint64_t(pair.second)), fresh_pair,
                                    [&](int i) { return pairs_[size_t(i)].planes == pair; });
        if (known != fresh_pair) return pairs_[size_t(known)].line;
        const LineName name = planes_.line(pair.first, pair.second);
        const int fresh = int(out_.lines.size());
        const int line = line_index_.find_or_add(hash_of(name), fresh,
                                                 [&](int i) { return out_.lines[size_t(i)] == name; });
        if (line == fresh) out_.lines.push_back(name), out_.line_ends.emplace_back();
        pairs_.push_back({pair, line});
        return line;
    }

    struct Pair {
        std::pair<int32_t, int32_t> planes;
        int line;
    };
    const PlaneTable& planes_;
    Seams out_;
    std::vector<Pair> pairs_;
    FlatIndex corner_index_, pair_index_, line_index_;
};

} // namespace

uint64_t hash_of(const TickPoint& p) {
    return mixed(mixed(mixed(0, uint64_t(p.x)), uint64_t(p.y)), uint64_t(p.z));
}

uint64_t hash_of(const LineName& name) {
    uint64_t h = 0;
    for (uint64_t r : name.residues) h = mixed(h, r);
    return h;
}

Seams seams_of(std::span<const Fragment> fragments, const PlaneTable& planes) {
    size_t edges = 0;
    for (const Fragment& fragment : fragments) edges += fragment.polygon.edges.size();
    SeamFinder finder(planes, edges);
    for (const Fragment& fragment : fragments) finder.add(fragment.polygon);
    return finder.finish();
}

} // namespace rubble::build
