#pragma once

#include <array>
#include <span>
#include <vector>

#include <boost/container/small_vector.hpp>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble::build {

struct FacePiece;

/// The edges of some pieces by the lines that carry them, whichever planes name a line, and by the ticks
/// at which they end. What lies along one line is in the same order for everyone who asks: rounding to ticks
/// keeps the order along the line, so places are compared as whole numbers.
class Seams {
public:
    struct Line {
        uint64_t check;            ///< of its name, besides its key: both are the same for one line alone
        std::array<int8_t, 3> way; ///< signs of its direction
        int first_end = 0, ends = 0;
        int first_use = 0, uses = 0;
        uint64_t hash = 0; ///< of all that lies along it
    };
    /// An edge of a piece along a line.
    struct Use {
        int from, to; ///< places
        int line;
        bool ahead;    ///< the piece, seen from outside, has it run the line's own way
        uint64_t face; ///< the same for pieces in one plane, on one side of it, of one material
    };

    Seams() = default;
    Seams(std::span<const FacePiece> pieces, const geometry::PlaneTable& planes);

    const std::vector<geometry::TickPoint>& places() const { return places_; }
    const std::vector<Line>& lines() const { return lines_; }
    /// Hashes of the lines' names, in order; the lines are in the same order. Kept apart, so that looking for
    /// a line of another part touches little memory.
    const std::vector<uint64_t>& keys() const { return keys_; }
    /// All edges of all pieces, line by line.
    const std::vector<Use>& uses() const { return uses_; }
    /// The same in the order of the pieces, as indices.
    const std::vector<int>& order() const { return order_; }
    /// The places at which edges on a line end, in their order along it, each once, as indices into `places`.
    std::span<const int> ends_on(const Line& line) const {
        return std::span(ends_).subspan(size_t(line.first_end), size_t(line.ends));
    }
    /// The edges along a line.
    std::span<const Use> uses_on(const Line& line) const {
        return std::span(uses_).subspan(size_t(line.first_use), size_t(line.uses));
    }

private:
    void sort_lines();
    void list_by_line();
    void hash_lines();

    std::vector<geometry::TickPoint> places_;
    std::vector<int> ends_;
    std::vector<uint64_t> keys_;
    std::vector<Line> lines_;
    std::vector<Use> uses_;
    std::vector<int> order_;
};

/// Whether `a` lies before `b` along a line of that way.
inline bool before(const geometry::TickPoint& a, const geometry::TickPoint& b,
                   const std::array<int8_t, 3>& way) {
    if (a.x != b.x) return way[0] < 0 ? a.x > b.x : a.x < b.x;
    if (a.y != b.y) return way[1] < 0 ? a.y > b.y : a.y < b.y;
    return way[2] < 0 ? a.z > b.z : a.z < b.z;
}

/// The lines of a part, to look up those of others among them: open addressing, so that a line that is not
/// there costs one look.
class LineTable {
public:
    explicit LineTable(const Seams& seams) : seams_(seams) {
        size_t size = 16;
        while (size < 2 * seams.keys().size()) size *= 2;
        slots_.resize(size, -1);
        for (size_t i = 0; i < seams.keys().size(); ++i) {
            size_t at = seams.keys()[i] & (size - 1);
            while (slots_[at] >= 0) at = (at + 1) & (size - 1);
            slots_[at] = int(i);
        }
    }
    /// Calls `visit(line, line of the other)` for every line along which both have edges, by their indices.
    template <class F> void for_common_lines(const Seams& other, F visit) const {
        for (size_t k = 0; k < other.keys().size(); ++k) {
            const uint64_t key = other.keys()[k];
            for (size_t at = key & (slots_.size() - 1); slots_[at] >= 0;
                 at = (at + 1) & (slots_.size() - 1)) {
                const auto i = size_t(slots_[at]);
                if (seams_.keys()[i] != key || seams_.lines()[i].check != other.lines()[k].check) continue;
                visit(i, k);
                break;
            }
        }
    }

private:
    const Seams& seams_;
    boost::container::small_vector<int, 256> slots_;
};

/// Hashes for looking places up.
uint64_t hash_of(const geometry::TickPoint& place);

} // namespace rubble::build
