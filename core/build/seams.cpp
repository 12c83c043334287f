#include "build/seams.h"

#include <algorithm>
#include <functional>
#include <numeric>

#include <boost/container/small_vector.hpp>

#include "base/flat_index.h"
#include "build/solid.h"

namespace rubble::build {

using geometry::LineName;
using geometry::PlaneTable;
using geometry::TickPoint;

namespace {

uint64_t mixed(uint64_t h, uint64_t v) {
    h = (h ^ v) * 0x9e3779b97f4a7c15u;
    return h ^ (h >> 29);
}

/// Two numbers of a line, from different seeds.
uint64_t hash_of(const LineName& name, uint64_t seed) {
    uint64_t h = seed;
    for (uint64_t r : name.residues) h = mixed(h, r);
    return h;
}

} // namespace

uint64_t hash_of(const TickPoint& p) {
    return mixed(mixed(mixed(0, uint64_t(p.x)), uint64_t(p.y)), uint64_t(p.z));
}

namespace {

/// Names the outer side of a piece's plane, with its material.
uint64_t face_of(const FacePiece& piece) {
    const auto& support = piece.polygon.support;
    return mixed(uint64_t(support.id) * 2 + (support.flipped != piece.reversed),
                 std::hash<MaterialId>()(piece.material));
}

/// Numbers places and lines as they are met, each once.
class Numbering {
public:
    Numbering(const PlaneTable& planes, size_t edges)
        : planes_(planes),
          place_index_(edges / 2),
          pair_index_(edges / 2),
          line_index_(edges / 2) {}

    std::vector<TickPoint> places() const { return {places_.begin(), places_.end()}; }
    std::vector<Seams::Line> lines() const { return {lines_.begin(), lines_.end()}; }
    std::vector<uint64_t> keys() const { return {keys_.begin(), keys_.end()}; }

    int place_of(const TickPoint& place) {
        const int fresh = int(places_.size());
        const int index = place_index_.find_or_add(build::hash_of(place), fresh,
                                                   [&](int i) { return places_[size_t(i)] == place; });
        if (index == fresh) places_.push_back(place);
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
        const uint64_t key = hash_of(name, 0), check = hash_of(name, 0x5851f42d4c957f2du);
        const int fresh = int(lines_.size());
        const int line =
            line_index_.find_or_add(key, fresh, [&](int i) { return lines_[size_t(i)].check == check; });
        if (line == fresh) {
            lines_.push_back({check, planes_.way(pair.first, pair.second)});
            keys_.push_back(key);
        }
        pairs_.push_back({pair, line});
        return line;
    }

private:
    struct Pair {
        std::pair<int32_t, int32_t> planes;
        int line;
    };
    const PlaneTable& planes_;
    boost::container::small_vector<TickPoint, 64> places_;
    boost::container::small_vector<Seams::Line, 64> lines_;
    boost::container::small_vector<uint64_t, 64> keys_;
    boost::container::small_vector<Pair, 64> pairs_;
    FlatIndex place_index_, pair_index_, line_index_;
};

} // namespace

Seams::Seams(std::span<const FacePiece> pieces, const PlaneTable& planes) {
    size_t edges = 0;
    for (const FacePiece& piece : pieces) edges += piece.polygon.edges.size();
    uses_.reserve(edges);
    Numbering numbering(planes, edges);
    for (size_t f = 0; f < pieces.size(); ++f) {
        const Polygon& polygon = pieces[f].polygon;
        const size_t begin = uses_.size(), n = polygon.edges.size();
        const uint64_t face = face_of(pieces[f]);
        for (const auto& edge : polygon.edges)
            uses_.push_back({numbering.place_of(planes.rounded(edge.start)), 0,
                             numbering.line_of(polygon.support.id, edge.plane), pieces[f].reversed, face});
        for (size_t i = 0; i < n; ++i) uses_[begin + i].to = uses_[begin + (i + 1 < n ? i + 1 : 0)].from;
    }
    places_ = numbering.places(), lines_ = numbering.lines(), keys_ = numbering.keys();
    sort_lines();
    list_by_line();
    hash_lines();
}

void Seams::sort_lines() {
    std::vector<int> order(lines_.size()), rank(lines_.size());
    std::iota(order.begin(), order.end(), 0);
    std::sort(order.begin(), order.end(), [&](int a, int b) { return keys_[size_t(a)] < keys_[size_t(b)]; });
    std::vector<Line> sorted;
    sorted.reserve(lines_.size());
    for (const int i : order) rank[size_t(i)] = int(sorted.size()), sorted.push_back(lines_[size_t(i)]);
    lines_ = std::move(sorted);
    std::sort(keys_.begin(), keys_.end());
    for (Use& use : uses_) {
        use.line = rank[size_t(use.line)];
        use.ahead ^= before(places_[size_t(use.from)], places_[size_t(use.to)], lines_[size_t(use.line)].way);
    }
}

void Seams::list_by_line() {
    for (const Use& use : uses_) ++lines_[size_t(use.line)].uses;
    int sum = 0;
    for (Line& line : lines_) line.first_use = sum, sum += line.uses, line.uses = 0;
    order_.resize(uses_.size());
    std::vector<Use> by_line(uses_.size());
    for (size_t i = 0; i < uses_.size(); ++i) {
        Line& line = lines_[size_t(uses_[i].line)];
        order_[i] = line.first_use + line.uses++;
        by_line[size_t(order_[i])] = uses_[i];
    }
    uses_ = std::move(by_line);
    ends_.reserve(2 * uses_.size());
    for (Line& line : lines_) {
        line.first_end = int(ends_.size());
        for (const Use& use : uses_on(line)) ends_.insert(ends_.end(), {use.from, use.to});
        const auto begin = ends_.begin() + line.first_end;
        std::sort(begin, ends_.end(),
                  [&](int a, int b) { return before(places_[size_t(a)], places_[size_t(b)], line.way); });
        ends_.erase(std::unique(begin, ends_.end()), ends_.end());
        line.ends = int(ends_.size()) - line.first_end;
    }
    ends_.shrink_to_fit();
}

/// Tells whether anything along a line is otherwise than before: the edges' ends and what they bound.
void Seams::hash_lines() {
    for (Line& line : lines_)
        for (const Use& use : uses_on(line)) {
            const uint64_t ends =
                mixed(build::hash_of(places_[size_t(use.from)]), build::hash_of(places_[size_t(use.to)]));
            line.hash += mixed(mixed(ends, use.face), use.ahead); // in whatever order
        }
}

} // namespace rubble::build
