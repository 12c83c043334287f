#include "io/tile_csv.h"

#include <algorithm>

#include "io/tile_file.h"

namespace rubble::io {

namespace {

constexpr size_t k_most_rows = 1 << 20;

std::vector<std::string> lines_of(std::string text) {
    if (text.starts_with("\xEF\xBB\xBF")) text.erase(0, 3);
    std::vector<std::string> lines;
    std::string line;
    for (size_t i = 0; i < text.size(); ++i) {
        if (text[i] != '\n' && text[i] != '\r') {
            line += text[i];
            continue;
        }
        if (text[i] == '\r' && i + 1 < text.size() && text[i + 1] == '\n') ++i;
        lines.push_back(std::move(line));
        line.clear();
    }
    if (!line.empty()) lines.push_back(std::move(line));
    while (!lines.empty() && lines.back().find_first_not_of(" \t") == std::string::npos) lines.pop_back();
    return lines;
}

template <class Text> std::string rows_of(const TileGrid& grid, bool trimmed, Text text_of_cell) {
    const TileBox& area = grid.area();
    std::string out;
    for (int row = area.low.row; row < area.high.row; ++row) {
        std::string line, pending;
        for (int column = area.low.column; column < area.high.column; ++column) {
            const Tile tile = grid.at({column, row});
            pending += (column > area.low.column ? "," : "") + text_of_cell(tile);
            if (!trimmed || !tile.empty()) line += std::move(pending), pending.clear();
        }
        out += line + "\n";
    }
    return out;
}

} // namespace

std::string csv_of(const TileGrid& grid, bool trimmed) {
    return rows_of(grid, trimmed, [](Tile tile) { return text_of(tile); });
}

std::string collision_csv_of(const TileLayer& layer) {
    return rows_of(layer.grid, false, [&](Tile tile) {
        return std::string(collision_outline(layer.sheet.get(), tile.number()).empty() ? "0" : "1");
    });
}

Result<TileGrid> grid_from_csv(const std::string& text, const std::string& place, RaggedRows ragged) {
    const std::vector<std::string> lines = lines_of(text);
    if (lines.size() > k_most_rows)
        return rubble::fail("csv.size", place, "The file has more than a million rows.");
    TileGridMaker maker;
    TileBox area;
    size_t longest = 0, first_row = 0;
    for (size_t row = 0; row < lines.size(); ++row) {
        const std::string where = place + ", row " + std::to_string(row + 1);
        std::string line = lines[row];
        const size_t last = line.find_last_not_of(" \t");
        if (last != std::string::npos && line[last] == ',') line.erase(last);
        auto tiles = tiles_of_row(line, where);
        if (!tiles) return tl::unexpected(tiles.error());
        if (row == 0) first_row = tiles->size();
        longest = std::max(longest, tiles->size());
        if (ragged == RaggedRows::refuse && tiles->size() != first_row)
            return rubble::fail("csv.ragged", where,
                                "The row has " + std::to_string(tiles->size()) + " cells, the first one " +
                                    std::to_string(first_row) +
                                    ". Complete it, or let short rows be filled up with empty cells.");
        for (size_t column = 0; column < tiles->size(); ++column)
            if (!(*tiles)[column].empty()) maker.put({int(column), int(row)}, (*tiles)[column]);
    }
    if (longest == 0) return rubble::fail("csv.empty", place, "There are no cells in the file.");
    area = {{0, 0}, {int(longest), int(lines.size())}};
    return maker.finished(area);
}

} // namespace rubble::io
