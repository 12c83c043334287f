#pragma once

#include <array>
#include <span>
#include <vector>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble::build {

struct Fragment;

/// The edges of some fragments by the lines that carry them, whichever planes name a line, and by the ticks
/// at which they end. What lies along one line is in the same order for everyone who asks: rounding to ticks
/// keeps the order along the line, so places are compared as whole numbers.
class Seams {
public:
    struct Line {
        geometry::LineName name;
        std::array<int8_t, 3> way; ///< signs of its direction
        int first_end = 0, ends = 0;
        int first_use = 0, uses = 0;
        uint64_t hash = 0; ///< of all that lies along it
    };
    /// An edge of a fragment along a line.
    struct Use {
        int from, to; ///< places
        int line;
        bool ahead;    ///< the fragment, seen from outside, has it run the line's own way
        uint64_t face; ///< the same for fragments in one plane, on one side of it, of one material
    };

    Seams() = default;
    Seams(std::span<const Fragment> fragments, const geometry::PlaneTable& planes);

    const std::vector<geometry::TickPoint>& places() const { return places_; }
    const std::vector<Line>& lines() const { return lines_; }
    /// Hashes of the lines' names, in order; the lines are in the same order. Kept apart, so that comparing
    /// two lists of lines that have little in common touches little memory.
    const std::vector<uint64_t>& keys() const { return keys_; }
    /// The uses of all edges of all fragments, in order.
    const std::vector<Use>& uses() const { return uses_; }
    /// The places at which edges on a line end, in their order along it, each once.
    std::span<const geometry::TickPoint> ends_on(const Line& line) const {
        return std::span(ends_).subspan(size_t(line.first_end), size_t(line.ends));
    }
    /// The edges along a line, as indices into `uses`.
    std::span<const int> uses_on(const Line& line) const {
        return std::span(uses_by_line_).subspan(size_t(line.first_use), size_t(line.uses));
    }

private:
    void sort_lines();
    void list_by_line();
    void hash_lines();

    std::vector<geometry::TickPoint> places_, ends_;
    std::vector<uint64_t> keys_;
    std::vector<Line> lines_;
    std::vector<Use> uses_;
    std::vector<int> uses_by_line_;
};

/// Whether `a` lies before `b` along a line of that way.
inline bool before(const geometry::TickPoint& a, const geometry::TickPoint& b,
                   const std::array<int8_t, 3>& way) {
    if (a.x != b.x) return way[0] < 0 ? a.x > b.x : a.x < b.x;
    if (a.y != b.y) return way[1] < 0 ? a.y > b.y : a.y < b.y;
    return way[2] < 0 ? a.z > b.z : a.z < b.z;
}

/// Calls `visit(line of a, line of b)` for every line along which both have edges, by their indices.
template <class F> void for_common_lines(const Seams& a, const Seams& b, F visit) {
    const auto &p = a.keys(), &q = b.keys();
    for (size_t i = 0, k = 0; i < p.size() && k < q.size();) {
        if (p[i] != q[k]) {
            p[i] < q[k] ? ++i : ++k;
            continue;
        }
        for (size_t same = k; same < q.size() && q[same] == p[i]; ++same)
            if (a.lines()[i].name == b.lines()[same].name) visit(i, same);
        ++i;
    }
}

/// Hashes for looking places up.
uint64_t hash_of(const geometry::TickPoint& place);

} // namespace rubble::build
