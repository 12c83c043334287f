#include <algorithm>
#include <climits>
#include <cmath>

#include "level/mass.h"

namespace rubble {

namespace {

/// Ends of a part that planes make, so that it does not matter where its box ends.
constexpr int k_open_low = INT_MIN, k_open_high = INT_MAX;

/// Convex matter over one column.
struct Piece {
    int low, high;
    std::vector<CellPlane> planes;
    bool operator==(const Piece&) const = default;
};

/// Whether all of a stretch of a column is behind a plane.
bool holds(const CellPlane& plane, int x, int y, int low, int high) {
    for (int corner = 0; corner < 8; ++corner)
        if (plane.over(x + (corner & 1), y + (corner >> 1 & 1), corner >> 2 ? high : low) > 0) return false;
    return true;
}

bool hold(const std::vector<CellPlane>& planes, int x, int y, int low, int high) {
    return std::all_of(planes.begin(), planes.end(),
                       [&](const CellPlane& plane) { return holds(plane, x, y, low, high); });
}

/// Where a plane that is not upright is highest (lowest) over a rectangle of columns.
double end_of(const CellPlane& plane, int x0, int y0, int x1, int y1, bool highest) {
    double end = highest ? -1e18 : 1e18;
    for (int corner = 0; corner < 4; ++corner) {
        const int x = corner & 1 ? x1 : x0, y = corner >> 1 ? y1 : y0;
        const double z = double(plane.d - int64_t(plane.a) * x - int64_t(plane.b) * y) / plane.c;
        end = highest ? std::max(end, z) : std::min(end, z);
    }
    return end;
}

/// A piece whose upper or lower end a plane makes is open there: it goes on into the next column.
Piece opened(Piece piece, int x, int y) {
    const int low = piece.low, high = piece.high;
    for (const CellPlane& plane : piece.planes) {
        if (plane.c > 0 && end_of(plane, x, y, x + 1, y + 1, true) <= high) piece.high = k_open_high;
        if (plane.c < 0 && end_of(plane, x, y, x + 1, y + 1, false) >= low) piece.low = k_open_low;
    }
    return piece;
}

/// A column in convex pieces, each as high as can be.
std::vector<Piece> pieces_of(const CellColumn& column, int x, int y) {
    std::vector<Piece> out;
    bool open_above = false; // the last piece may grow
    for (const CellRun& run : column) {
        if (run.cell.form && run.cell.form->either) {
            for (const CellPlane& plane : run.cell.form->planes) out.push_back({run.low, run.high, {plane}});
            open_above = false;
            continue;
        }
        std::vector<CellPlane> planes;
        if (run.cell.form) planes = run.cell.form->planes;
        if (open_above && out.back().high == run.low && hold(planes, x, y, out.back().low, run.low) &&
            hold(out.back().planes, x, y, run.low, run.high)) {
            out.back().high = run.high;
            out.back().planes.insert(out.back().planes.end(), planes.begin(), planes.end());
            std::sort(out.back().planes.begin(), out.back().planes.end());
        } else {
            out.push_back({run.low, run.high, std::move(planes)});
        }
        open_above = true;
    }
    for (Piece& piece : out) piece = opened(std::move(piece), x, y);
    return out;
}

/// The pieces of a chunk, those alike put together to rectangles.
class ChunkParts {
public:
    ChunkParts(const MassChunk& chunk, int x, int y) : x_(x), y_(y) {
        for (int j = 0; j < MassChunk::size; ++j)
            for (int i = 0; i < MassChunk::size; ++i) at(i, j) = pieces_of(chunk.column(i, j), x + i, y + j);
    }

    void add_to(std::vector<MassPart>& out) {
        for (int j = 0; j < MassChunk::size; ++j)
            for (int i = 0; i < MassChunk::size; ++i)
                while (!at(i, j).empty()) {
                    const Piece piece = at(i, j).back();
                    const auto [width, depth] = largest(i, j, piece);
                    for (int v = 0; v < depth; ++v)
                        for (int u = 0; u < width; ++u) std::erase(at(i + u, j + v), piece);
                    out.push_back(part(i, j, width, depth, piece));
                }
    }

private:
    std::vector<Piece>& at(int i, int j) { return pieces_[size_t(j) * MassChunk::size + size_t(i)]; }
    bool has(int i, int j, const Piece& piece) {
        if (i >= MassChunk::size || j >= MassChunk::size) return false;
        const auto& pieces = at(i, j);
        return std::find(pieces.begin(), pieces.end(), piece) != pieces.end();
    }
    /// The widest rectangle of each depth is looked at, and the one of the most columns taken.
    std::pair<int, int> largest(int i, int j, const Piece& piece) {
        std::pair<int, int> best{1, 1};
        int width = MassChunk::size - i;
        for (int depth = 1; j + depth <= MassChunk::size; ++depth) {
            int reach = 0;
            while (reach < width && has(i + reach, j + depth - 1, piece)) ++reach;
            width = reach;
            if (width == 0) break;
            if (width * depth > best.first * best.second) best = {width, depth};
        }
        return best;
    }
    MassPart part(int i, int j, int width, int depth, const Piece& piece) const {
        MassPart out{{{x_ + i, y_ + j, piece.low}, {x_ + i + width, y_ + j + depth, piece.high}},
                     piece.planes};
        const auto end = [&](bool highest) {
            double nearest = highest ? 1e18 : -1e18;
            for (const CellPlane& plane : piece.planes) {
                if (highest ? plane.c <= 0 : plane.c >= 0) continue;
                const double z =
                    end_of(plane, out.box.low[0], out.box.low[1], out.box.high[0], out.box.high[1], highest);
                nearest = highest ? std::min(nearest, z) : std::max(nearest, z);
            }
            return highest ? int(std::ceil(nearest)) : int(std::floor(nearest));
        };
        if (piece.high == k_open_high) out.box.high[2] = end(true);
        if (piece.low == k_open_low) out.box.low[2] = end(false);
        return out;
    }

    int x_, y_;
    std::array<std::vector<Piece>, size_t(MassChunk::size) * MassChunk::size> pieces_;
};

} // namespace

std::vector<MassPart> parts_of(const MassGrid& grid) {
    std::vector<MassPart> out;
    for (const auto& [key, chunk] : grid.chunks)
        ChunkParts(*chunk, key[0] * MassChunk::size, key[1] * MassChunk::size).add_to(out);
    return out;
}

} // namespace rubble
