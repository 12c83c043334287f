#include "io/mass_file.h"

#include <algorithm>
#include <set>

namespace rubble::io {

namespace {

constexpr int k_size = MassChunk::size;
/// Bounds that keep a small file from asking for very much: columns that all boxes cover together, and cut
/// cells.
constexpr int64_t k_most_columns = int64_t(1) << 22, k_most_cut = int64_t(1) << 22;
constexpr int64_t k_largest_number = int64_t(1) << 40;

/// A row of whole numbers; nothing where it is none or has another length.
std::optional<std::vector<int64_t>> whole_row(const Json& json, size_t least, size_t most) {
    if (!json.is_array() || json.size() < least || json.size() > most) return {};
    std::vector<int64_t> row;
    for (const Json& part : json) {
        if (!part.is_number_integer()) return {};
        const auto value = part.get<int64_t>();
        if (value < -k_largest_number || value > k_largest_number) return {};
        row.push_back(value);
    }
    return row;
}

std::optional<CellBox> box_of(const std::vector<int64_t>& row) {
    CellBox box;
    for (size_t i = 0; i < 3; ++i) {
        const int64_t low = row[i], high = low + row[i + 3];
        if (low < -farthest_cell || high > farthest_cell || low >= high) return {};
        box.low[i] = int(low), box.high[i] = int(high);
    }
    return box;
}

int64_t columns_of(const CellBox& box) {
    return int64_t(box.high[0] - box.low[0]) * (box.high[1] - box.low[1]);
}

std::optional<CellForm> form_of(const std::vector<int64_t>& row, bool either) {
    CellForm form{{}, either};
    if ((row.size() - 6) % 4 != 0) return {};
    for (size_t i = 6; i < row.size(); i += 4) {
        const auto plane = in_lowest_terms(row[i], row[i + 1], row[i + 2], row[i + 3]);
        if (!plane) return {};
        form.planes.push_back(*plane);
    }
    return form;
}

template <class F> void for_each_column(const CellBox& box, F visit) {
    for (int y = box.low[1]; y < box.high[1]; ++y)
        for (int x = box.low[0]; x < box.high[0]; ++x) visit(x, y);
}

class MassReader {
public:
    explicit MassReader(Reader& in) : in_(in), cells_(MassGrid{in.number("cell_m", 1), {}}) {}

    MassGrid read() {
        for (const Json& json : in_.list("cells")) {
            const auto row = whole_row(json, 6, 6);
            const auto box = row ? box_of(*row) : std::nullopt;
            if (!box || (columns_ += columns_of(*box)) > k_most_columns) return fail("cells");
            for_each_column(*box,
                            [&](int x, int y) { cells_.set(x, y, box->low[2], box->high[2], Cell::full()); });
        }
        if (!read_cut("slopes", false) || !read_cut("folds", true)) return {};
        return cells_.finished();
    }

private:
    bool read_cut(const char* key, bool either) {
        for (const Json& json : in_.list(key)) {
            const auto row = whole_row(json, 10, 22);
            const auto box = row ? box_of(*row) : std::nullopt;
            const auto form = box ? form_of(*row, either) : std::nullopt;
            if (!form || (cut_ += columns_of(*box) * (box->high[2] - box->low[2])) > k_most_cut) {
                fail(key);
                return false;
            }
            for_each_column(*box, [&](int x, int y) {
                for (int z = box->low[2]; z < box->high[2]; ++z) cells_.set(x, y, z, cell_of(*form, x, y, z));
            });
        }
        return true;
    }
    MassGrid fail(const char* key) {
        in_.fail(key,
                 "rows of whole numbers: a box of cells within 4096 of the origin (x, y, z and its three "
                 "sizes)" +
                     std::string(key == std::string("cells") ? "" : " and planes of four numbers each"));
        return {};
    }

    Reader& in_;
    MassEditor cells_;
    int64_t columns_ = 0, cut_ = 0;
};

/// Runs alike of one chunk put together to boxes, row by row and then over rows.
class ChunkRows {
public:
    ChunkRows(const MassChunk& chunk, int x, int y) : chunk_(chunk), x_(x), y_(y) {}

    void put(Json& cells, Json& slopes, Json& folds) {
        for (int y = 0; y < k_size; ++y)
            for (int x = 0; x < k_size; ++x)
                for (const CellRun& run : chunk_.column(x, y))
                    if (!taken_.count({x, y, run.low})) put_box(x, y, run, cells, slopes, folds);
    }

private:
    bool has(int x, int y, const CellRun& run) const {
        if (x >= k_size || y >= k_size || taken_.count({x, y, run.low})) return false;
        const CellColumn& column = chunk_.column(x, y);
        return std::find(column.begin(), column.end(), run) != column.end();
    }
    void put_box(int x, int y, const CellRun& run, Json& cells, Json& slopes, Json& folds) {
        int width = 1, depth = 1;
        while (has(x + width, y, run)) ++width;
        for (bool all = true; all; depth += all)
            for (int i = 0; i < width; ++i) all = all && has(x + i, y + depth, run);
        for (int v = 0; v < depth; ++v)
            for (int u = 0; u < width; ++u) taken_.insert({x + u, y + v, run.low});
        Json row = {x_ + x, y_ + y, run.low, width, depth, run.high - run.low};
        if (run.cell.form)
            for (const CellPlane& plane : run.cell.form->planes)
                for (const int64_t part : {int64_t(plane.a), int64_t(plane.b), int64_t(plane.c), plane.d})
                    row.push_back(part);
        Json& list = !run.cell.form ? cells : run.cell.form->either ? folds : slopes;
        list.push_back(std::move(row));
    }

    const MassChunk& chunk_;
    int x_, y_;
    std::set<std::array<int, 3>> taken_;
};

} // namespace

MassGrid read_mass(Reader& in) { return MassReader(in).read(); }

void put_mass(const MassGrid& grid, Json& json) {
    Json cells = Json::array(), slopes = Json::array(), folds = Json::array();
    for (const auto& [key, chunk] : grid.chunks)
        ChunkRows(*chunk, key[0] * k_size, key[1] * k_size).put(cells, slopes, folds);
    json["cell_m"] = grid.cell_m;
    json["cells"] = std::move(cells);
    if (!slopes.empty()) json["slopes"] = std::move(slopes);
    if (!folds.empty()) json["folds"] = std::move(folds);
}

} // namespace rubble::io
