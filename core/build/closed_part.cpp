#include "build/closed_part.h"

#include <algorithm>

namespace rubble::build {

using geometry::TickPoint;

namespace {

/// A corner of a loop, and whether beyond the edge that leads on from it the same face goes on.
struct LoopCorner {
    TickPoint place;
    bool inner;
};
using Loop = std::vector<LoopCorner>;

/// What the neighbours have along the lines of one part.
class Closer {
public:
    Closer(const Seams& own, std::span<const SeamedPart> neighbours) : own_(own), lines_(own.lines().size()) {
        size_t places = 0;
        for (const Seams::Line& line : own.lines()) places += size_t(line.ends);
        const LineTable table(own);
        for (const SeamedPart& other : neighbours)
            table.for_common_lines(*other.seams, [&](size_t line, size_t along) {
                Line& known = lines_[line];
                const Seams::Line& theirs = other.seams->lines()[along];
                places += size_t(theirs.ends);
                others_.push_back({other.seams, &theirs, known.others});
                known.others = int(others_.size()) - 1;
            });
        merged_.reserve(places); // spans into it must stay
        for (size_t i = 0; i < lines_.size(); ++i) {
            merge(lines_[i], own.lines()[i]);
            list_mates(lines_[i], own.lines()[i]);
        }
    }

    /// Adds the corners of an edge, the last one not, with what goes on beyond each piece of it.
    void add_edge(const Seams::Use& use, Loop& loop) const {
        const auto& way = own_.lines()[size_t(use.line)].way;
        const Line& line = lines_[size_t(use.line)];
        const auto places = line.places;
        auto index = [&](int place) {
            return std::lower_bound(
                       places.begin(), places.end(), own_.places()[size_t(place)],
                       [&](const TickPoint& a, const TickPoint& b) { return before(a, b, way); }) -
                   places.begin();
        };
        const long from = index(use.from), to = index(use.to), step = from < to ? 1 : -1;
        for (long i = from; i != to; i += step) {
            const size_t low = size_t(std::min(i, i + step));
            loop.push_back({places[size_t(i)], goes_on(use, line, places[low], places[low + 1])});
        }
    }

private:
    struct Line {
        std::span<const TickPoint> places; ///< at which anyone's edges end, in order
        int others = -1;                   ///< the neighbours' edges along it, the first of a chain
        int first_mate = 0, mates = 0;
    };
    struct Other {
        const Seams* seams;
        const Seams::Line* line;
        int next;
    };
    /// An edge, own or a neighbour's, along a line of the part, beyond which one of its own faces goes on.
    struct Mate {
        TickPoint low, high;
        uint64_t face;
        bool ahead;
    };

    void merge(Line& line, const Seams::Line& own) {
        const size_t first = merged_.size();
        const auto add = [&](const Seams& seams, const Seams::Line& of) {
            for (const int place : seams.ends_on(of)) merged_.push_back(seams.places()[size_t(place)]);
        };
        add(own_, own);
        const auto& way = own.way;
        for (int k = line.others; k >= 0; k = others_[size_t(k)].next)
            add(*others_[size_t(k)].seams, *others_[size_t(k)].line);
        if (line.others < 0) {
            line.places = std::span(merged_).subspan(first);
            return;
        }
        const auto begin = merged_.begin() + long(first);
        std::sort(begin, merged_.end(),
                  [&](const TickPoint& a, const TickPoint& b) { return before(a, b, way); });
        merged_.erase(std::unique(begin, merged_.end()), merged_.end());
        line.places = std::span(merged_).subspan(first);
    }

    /// Both seen from outside, the edges of faces that go on run against each other.
    void list_mates(Line& line, const Seams::Line& own) {
        line.first_mate = int(mates_.size());
        const auto uses = own_.uses_on(own);
        const auto add = [&](const Seams& seams, const Seams::Line& along) {
            for (const Seams::Use& other : seams.uses_on(along)) {
                const bool wanted = std::any_of(uses.begin(), uses.end(), [&](const Seams::Use& use) {
                    return use.face == other.face && use.ahead != other.ahead;
                });
                if (!wanted) continue;
                const TickPoint &a = seams.places()[size_t(other.from)],
                                &b = seams.places()[size_t(other.to)];
                const bool forward = before(a, b, own.way);
                mates_.push_back({forward ? a : b, forward ? b : a, other.face, other.ahead});
            }
        };
        add(own_, own);
        for (int k = line.others; k >= 0; k = others_[size_t(k)].next)
            add(*others_[size_t(k)].seams, *others_[size_t(k)].line);
        line.mates = int(mates_.size()) - line.first_mate;
    }

    /// Whether beyond a piece of an edge, from `low` to `high` along its line, its face goes on.
    bool goes_on(const Seams::Use& use, const Line& line, const TickPoint& low, const TickPoint& high) const {
        const auto& way = own_.lines()[size_t(use.line)].way;
        const auto first = mates_.begin() + line.first_mate;
        return std::any_of(first, first + line.mates, [&](const Mate& mate) {
            return mate.face == use.face && mate.ahead != use.ahead && !before(low, mate.low, way) &&
                   !before(mate.high, high, way);
        });
    }

    const Seams& own_;
    boost::container::small_vector<Line, 64> lines_;
    boost::container::small_vector<Other, 64> others_;
    boost::container::small_vector<Mate, 32> mates_;
    std::vector<TickPoint> merged_;
};

/// Takes corners that follow themselves and spikes that lead nowhere out of a loop.
void tidy(Loop& loop) {
    size_t kept = 0;
    for (size_t i = 0; i < loop.size(); ++i) {
        if (kept > 0 && loop[kept - 1].place == loop[i].place) {
            loop[kept - 1].inner = loop[i].inner;
        } else if (kept > 1 && loop[kept - 2].place == loop[i].place) {
            --kept;
            loop[kept - 1].inner = loop[i].inner;
        } else {
            loop[kept++] = loop[i];
        }
    }
    while (kept > 1 && loop[0].place == loop[kept - 1].place) --kept;
    size_t first = 0;
    while (kept - first >= 3 && loop[first + 1].place == loop[kept - 1].place) ++first, --kept;
    if (kept - first < 3) kept = first;
    loop.resize(kept);
    loop.erase(loop.begin(), loop.begin() + long(first));
}

} // namespace

SurfacePart closed(const SeamedPart& own, std::span<const SeamedPart> neighbours,
                   const geometry::PlaneTable& planes) {
    const Closer closer(*own.seams, neighbours);
    SurfacePart out;
    out.points.reserve(own.seams->places().size());
    out.corners.reserve(own.seams->uses().size());
    out.faces.reserve(own.part->pieces.size());
    FlatIndex index(own.seams->places().size());
    Loop loop;
    auto next = own.seams->order().begin();
    for (const FacePiece& piece : own.part->pieces) {
        loop.clear();
        for (size_t i = 0; i < piece.polygon.edges.size(); ++i)
            closer.add_edge(own.seams->uses()[size_t(*next++)], loop);
        tidy(loop);
        if (loop.empty()) continue;
        SurfaceFace face;
        face.first = int(out.corners.size()), face.count = int(loop.size());
        const size_t n = loop.size();
        for (size_t i = 0; i < n; ++i) {
            // Turned round, the edge from a corner is the one that came to it.
            const TickPoint& place = loop[piece.reversed ? n - 1 - i : i].place;
            const bool goes_on = loop[piece.reversed ? (2 * n - 2 - i) % n : i].inner;
            const int fresh = int(out.points.size());
            const int point = index.find_or_add(hash_of(place), fresh,
                                                [&](int k) { return out.points[size_t(k)] == place; });
            if (point == fresh) out.points.push_back(place), out.box.add(geometry::to_metres(place));
            out.corners.push_back({point, goes_on});
        }
        face.normal = planes.normal(piece.polygon.support) * (piece.reversed ? -1.0 : 1.0);
        face.plane = piece.polygon.support.id;
        face.side = piece.side;
        face.material = piece.material;
        out.faces.push_back(std::move(face));
    }
    out.points.shrink_to_fit(), out.corners.shrink_to_fit();
    return out;
}

} // namespace rubble::build
