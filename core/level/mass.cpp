#include "level/mass.h"

#include <algorithm>
#include <numeric>

#include "level/mass_columns.h"

namespace rubble {

namespace {

constexpr int k_chunk_cells = MassChunk::size;

int floor_part(int value) {
    return value >= 0 ? value / k_chunk_cells : -((k_chunk_cells - 1 - value) / k_chunk_cells);
}

const CellColumn& no_column() {
    static const CellColumn none;
    return none;
}

const CellColumn& column_in(const MassChunk& chunk, const std::array<int, 2>& key, int x, int y) {
    return chunk.column(x - key[0] * k_chunk_cells, y - key[1] * k_chunk_cells);
}

Cell cell_in(const CellColumn& column, int z) {
    const auto after = std::upper_bound(column.begin(), column.end(), z,
                                        [](int place, const CellRun& run) { return place < run.low; });
    if (after == column.begin() || std::prev(after)->high <= z) return {};
    return std::prev(after)->cell;
}

CellBox around(const CellBox& a, const CellBox& b) {
    CellBox out;
    for (size_t i = 0; i < 3; ++i)
        out.low[i] = std::min(a.low[i], b.low[i]), out.high[i] = std::max(a.high[i], b.high[i]);
    return out;
}

CellBox matter_of(const MassChunk& chunk) {
    CellBox box;
    for (int y = 0; y < k_chunk_cells; ++y)
        for (int x = 0; x < k_chunk_cells; ++x) {
            const CellColumn& column = chunk.column(x, y);
            if (column.empty()) continue;
            const CellBox own{{x, y, column.front().low}, {x + 1, y + 1, column.back().high}};
            box = box.empty() ? own : around(box, own);
        }
    return box;
}

/// The column with a stretch of it replaced.
CellColumn replaced(const CellColumn& column, int low, int high, const Cell& cell) {
    CellColumn out;
    const auto add = [&](int from, int to, const Cell& what) {
        if (from >= to || !what.matter) return;
        if (!out.empty() && out.back().high == from && out.back().cell == what)
            out.back().high = to;
        else
            out.push_back({from, to, what});
    };
    for (const CellRun& run : column) add(run.low, std::min(run.high, low), run.cell);
    add(low, high, cell);
    for (const CellRun& run : column) add(std::max(run.low, high), run.high, run.cell);
    return out;
}

} // namespace

std::array<int, 2> chunk_of(int x, int y) { return {floor_part(x), floor_part(y)}; }

Cell MassGrid::at(int x, int y, int z) const {
    const auto key = chunk_of(x, y);
    const auto chunk = chunks.find(key);
    return chunk == chunks.end() ? Cell{} : cell_in(column_in(*chunk->second, key, x, y), z);
}

CellBox MassGrid::extent() const {
    CellBox box;
    for (const auto& [key, chunk] : chunks) {
        CellBox own = chunk->matter;
        for (size_t i = 0; i < 2; ++i)
            own.low[i] += key[i] * k_chunk_cells, own.high[i] += key[i] * k_chunk_cells;
        box = box.empty() ? own : around(box, own);
    }
    return box;
}

std::optional<CellPlane> in_lowest_terms(int64_t a, int64_t b, int64_t c, int64_t d) {
    const int64_t divisor = std::gcd(std::gcd(a, b), std::gcd(c, d));
    if (divisor == 0) return {};
    a /= divisor, b /= divisor, c /= divisor, d /= divisor;
    for (const int64_t part : {a, b, c})
        if (part > steepest_cell || part < -steepest_cell) return {};
    if (a == 0 && b == 0 && c == 0) return {};
    return CellPlane{int(a), int(b), int(c), d};
}

Cell cell_of(const CellForm& form, int x, int y, int z) {
    CellForm left{{}, form.either};
    for (const CellPlane& plane : form.planes) {
        bool outside = false, inside = false;
        for (int corner = 0; corner < 8; ++corner) {
            const int64_t over = plane.over(x + (corner & 1), y + (corner >> 1 & 1), z + (corner >> 2));
            outside |= over > 0, inside |= over < 0;
        }
        if (outside && inside)
            left.planes.push_back(plane);
        else if (inside == form.either)
            return form.either ? Cell::full() : Cell{};
    }
    if (left.planes.empty()) return form.either ? Cell{} : Cell::full();
    std::sort(left.planes.begin(), left.planes.end());
    left.planes.erase(std::unique(left.planes.begin(), left.planes.end()), left.planes.end());
    if (left.planes.size() == 1) left.either = false;
    return {true, std::make_shared<const CellForm>(std::move(left))};
}

Cell MassEditor::at(int x, int y, int z) const { return cell_in(column(x, y), z); }

const CellColumn& MassEditor::column(int x, int y) const {
    const auto key = chunk_of(x, y);
    if (const auto own = changed_.find(key); own != changed_.end()) return column_in(own->second, key, x, y);
    const auto chunk = grid_.chunks.find(key);
    return chunk == grid_.chunks.end() ? no_column() : column_in(*chunk->second, key, x, y);
}

MassChunk& MassEditor::chunk(const std::array<int, 2>& key) {
    const auto own = changed_.find(key);
    if (own != changed_.end()) return own->second;
    const auto before = grid_.chunks.find(key);
    return changed_.emplace(key, before == grid_.chunks.end() ? MassChunk{} : *before->second).first->second;
}

void MassEditor::set(int x, int y, int low, int high, const Cell& cell) {
    if (low >= high) return;
    const auto key = chunk_of(x, y);
    CellColumn& column = chunk(key).column(x - key[0] * k_chunk_cells, y - key[1] * k_chunk_cells);
    column = replaced(column, low, high, cell);
}

MassGrid MassEditor::finished() {
    for (auto& [key, chunk] : changed_) {
        const auto before = grid_.chunks.find(key);
        chunk.matter = matter_of(chunk);
        if (chunk.matter.empty())
            grid_.chunks.erase(key);
        else if (before == grid_.chunks.end() || !(*before->second == chunk))
            grid_.chunks[key] = std::move(chunk);
    }
    changed_.clear();
    return grid_;
}

MassGrid mirrored(const MassGrid& grid, int axis) {
    MassEditor out(MassGrid{grid.cell_m, {}});
    for_each_column(grid, [&](int x, int y, const CellColumn& column) {
        const int mx = axis == 0 ? -1 - x : x, my = axis == 1 ? -1 - y : y;
        for (const CellRun& run : column) {
            Cell cell = run.cell;
            if (cell.form) {
                const auto form = with_planes(*cell.form, [&](CellPlane p) {
                    (axis == 0 ? p.a : p.b) *= -1;
                    return std::optional(p);
                });
                cell.form = std::make_shared<const CellForm>(*form);
            }
            out.set(mx, my, run.low, run.high, cell);
        }
    });
    return out.finished();
}

} // namespace rubble
