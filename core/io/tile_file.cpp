#include "io/tile_file.h"

#include <algorithm>
#include <charconv>
#include <cmath>

#include "io/names.h"

namespace rubble::io {

namespace {

/// The most cells that a layer's rows span, so that a small file cannot ask for very much.
constexpr int64_t k_most_cells = int64_t(1) << 26;
constexpr int k_most_in_a_row = 1 << 20;

void append(std::string& out, Tile tile) {
    char text[16];
    const auto end = std::to_chars(text, text + sizeof text, tile.number());
    out.append(text, end.ptr);
    if (tile.mirrored()) out += 'm';
    if (tile.turns() > 0) out += 'r', out += char('0' + tile.turns());
}

/// Reads one cell from the front of a text; nothing where none stands there.
std::optional<Tile> take_tile(const char*& at, const char* end) {
    int number = 0;
    const auto [next, error] = std::from_chars(at, end, number);
    if (error != std::errc() || number < -1 || number > Tile::most) return {};
    at = next;
    bool mirrored = false;
    int turns = 0;
    if (at < end && *at == 'm') mirrored = true, ++at;
    if (at + 1 < end && *at == 'r' && at[1] >= '1' && at[1] <= '3') turns = at[1] - '0', at += 2;
    return Tile(number, mirrored, turns);
}

const char* without_blanks(const char* at, const char* end) {
    while (at < end && (*at == ' ' || *at == '\t')) ++at;
    return at;
}

/// Calls `put(column, tile)` for the cells of a row; gives the number of cells, or -1 less the column of one
/// that is none.
template <class F> int read_row(const std::string& row, F put) {
    const char *at = row.data(), *end = at + row.size();
    int column = 0;
    if (without_blanks(at, end) == end) return 0;
    for (;; ++column) {
        at = without_blanks(at, end);
        const auto tile = take_tile(at, end);
        at = without_blanks(at, end);
        if (!tile || (at < end && *at != ',') || column >= k_most_in_a_row) return -1 - column;
        put(column, *tile);
        if (at == end) return column + 1;
        ++at;
    }
}

std::string cell_expected(size_t row, int column) {
    return "in row " + std::to_string(row + 1) + ", cell " + std::to_string(column + 1) +
           ", a tile's number from -1, with m for mirrored and r1 to r3 for turned";
}

TileGrid read_rows(Reader& in) {
    const Json& rows = in.strings("rows");
    TileGridMaker maker;
    TileBox area;
    int64_t cells = 0;
    for (size_t r = 0; r < rows.size(); ++r) {
        const int row = int(r);
        const int count = read_row(rows[r].get_ref<const std::string&>(), [&](int column, Tile tile) {
            if (!tile.empty()) maker.put({column, row}, tile);
        });
        cells += std::abs(count);
        if (count < 0) in.fail("rows", cell_expected(r, -1 - count));
        if (cells > k_most_cells) in.fail("rows", "no more than 67 million cells");
        if (!in.ok()) return {};
        area.add({{0, row}, {std::max(count, 1), row + 1}});
    }
    return maker.finished(area);
}

Json rows_json(const TileGrid& grid) {
    const TileBox& area = grid.area();
    Json rows = Json::array();
    for (int row = area.low.row; row < area.high.row; ++row) {
        std::string text;
        text.reserve(size_t(area.columns()) * 3);
        int next = area.low.column;
        const auto empty_up_to = [&](int column) {
            for (; next < column; ++next) text += text.empty() ? "-1" : ",-1";
        };
        grid.for_each_tile({{area.low.column, row}, {area.high.column, row + 1}}, [&](CellAt at, Tile tile) {
            empty_up_to(at.column);
            if (!text.empty()) text += ',';
            append(text, tile);
            ++next;
        });
        empty_up_to(area.high.column);
        rows.push_back(std::move(text));
    }
    return rows;
}

/// Tiles placed by hand, as runs: column, row (counted from the first of the rows), how many.
Json by_hand_json(const TileGrid& grid) {
    Json out = Json::array();
    const TileBox& area = grid.area();
    CellAt from{0, 0};
    int count = 0;
    const auto close = [&] {
        if (count > 0) out.push_back(Json{from.column - area.low.column, from.row - area.low.row, count});
        count = 0;
    };
    grid.for_each_tile(area, [&](CellAt at, Tile tile) {
        if (!tile.by_hand()) return;
        if (count > 0 && (at.row != from.row || at.column != from.column + count)) close();
        if (count++ == 0) from = at;
    });
    close();
    return out;
}

TileGrid with_by_hand(TileGrid grid, Reader& in) {
    const Json& runs = in.list("by_hand");
    TileGridMaker maker(std::move(grid));
    for (const Json& run : runs) {
        const bool sound =
            run.is_array() && run.size() == 3 && std::all_of(run.begin(), run.end(), [](const Json& v) {
                return v.is_number_integer() && v >= 0 && v <= k_most_in_a_row;
            });
        if (!sound) {
            in.fail("by_hand", "runs of cells, each a column, a row and a number of cells");
            return {};
        }
        const int row = run[1].get<int>(), count = run[2].get<int>();
        for (int column = run[0].get<int>(), last = column + count; column < last; ++column)
            if (const Tile tile = maker.at({column, row}); !tile.empty())
                maker.put({column, row}, Tile(tile.number(), tile.mirrored(), tile.turns(), true));
    }
    return maker.finished();
}

} // namespace

std::string text_of(Tile tile) {
    std::string out;
    append(out, tile);
    return out;
}

Result<std::vector<Tile>> tiles_of_row(const std::string& row, const std::string& place) {
    std::vector<Tile> out;
    const int count = read_row(row, [&](int, Tile tile) { out.push_back(tile); });
    if (count < 0)
        return rubble::fail(
            "tiles.cell", place,
            "Cell " + std::to_string(-count) +
                " is no tile: expected a number from -1, with m for mirrored and r1 to r3 for "
                "turned.");
    return out;
}

Json tiles_json(const TileLayer& layer, Frame frame, Json json) {
    json["cell_m"] = layer.cell_m;
    // Rows begin where the cells do.
    const TileBox& area = layer.grid.area();
    Vec3 origin = layer.origin;
    if (!area.empty()) origin = place_of(layer, frame, area.low, {0, 1});
    json["origin"] = to_json(origin);
    if (!layer.sheet_file.empty()) json["sheet"] = layer.sheet_file;
    json["solid"] = layer.solid;
    json["depth"] = layer.depth;
    if (layer.opacity != 1) json["opacity"] = layer.opacity;
    if (layer.parallax != Vec2(1)) json["parallax"] = Json{layer.parallax.x, layer.parallax.y};
    if (Json by_hand = by_hand_json(layer.grid); !by_hand.empty()) json["by_hand"] = std::move(by_hand);
    json["rows"] = rows_json(layer.grid);
    return json;
}

TileLayer read_tiles(Reader& in) {
    TileLayer layer;
    layer.cell_m = in.number("cell_m", layer.cell_m);
    if (!(layer.cell_m >= smallest_cell_m && layer.cell_m <= largest_cell_m))
        in.fail("cell_m", "a size from 0.01 to 100 m");
    layer.origin = point(in, "origin", Vec3(0));
    layer.sheet_file = in.text("sheet");
    layer.solid = in.flag("solid", false);
    layer.depth = in.number("depth", 0);
    layer.opacity = in.number("opacity", 1);
    if (!(layer.opacity >= 0 && layer.opacity <= 1)) in.fail("opacity", "a part from 0 to 1");
    const auto parallax = in.numbers("parallax", 2, {1, 1});
    layer.parallax = {parallax[0], parallax[1]};
    layer.grid = with_by_hand(read_rows(in), in);
    return layer;
}

} // namespace rubble::io
