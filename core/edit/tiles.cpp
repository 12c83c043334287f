#include "edit/tiles.h"

#include <algorithm>
#include <cmath>

#include "level/assemblies/resolved.h"

namespace rubble::edit {

Tile Stamp::repeated(CellAt cell, CellAt from) const {
    const auto within = [](int value, int size) { return ((value % size) + size) % size; };
    return at(within(cell.column - from.column, columns), within(cell.row - from.row, rows));
}

Stamp mirrored(const Stamp& stamp) {
    Stamp out = stamp;
    for (int row = 0; row < stamp.rows; ++row)
        for (int column = 0; column < stamp.columns; ++column)
            out.tiles[size_t(row) * size_t(stamp.columns) + size_t(column)] =
                stamp.at(stamp.columns - 1 - column, row).flipped();
    return out;
}

Stamp turned(const Stamp& stamp, int quarters) {
    Stamp out = stamp;
    for (int i = 0; i < (quarters & 3); ++i) {
        const Stamp before = out;
        std::swap(out.columns, out.rows);
        // What was at the right comes to the top.
        for (int row = 0; row < out.rows; ++row)
            for (int column = 0; column < out.columns; ++column)
                out.tiles[size_t(row) * size_t(out.columns) + size_t(column)] =
                    before.at(before.columns - 1 - row, column).turned(1);
    }
    return out;
}

Stamp stamp_of(const TileGrid& grid, const TileBox& box) {
    Stamp stamp;
    stamp.columns = box.columns(), stamp.rows = box.rows();
    stamp.tiles.assign(size_t(stamp.columns) * size_t(stamp.rows), Tile());
    grid.for_each_tile(box, [&](CellAt at, Tile tile) {
        stamp.tiles[size_t(at.row - box.low.row) * size_t(stamp.columns) +
                    size_t(at.column - box.low.column)] = tile;
    });
    return stamp;
}

std::vector<CellAt> cells_on_line(CellAt from, CellAt to) {
    std::vector<CellAt> out;
    const int across = std::abs(to.column - from.column), down = -std::abs(to.row - from.row);
    const int right = from.column < to.column ? 1 : -1, below = from.row < to.row ? 1 : -1;
    int error = across + down;
    for (;;) {
        out.push_back(from);
        if (from == to) return out;
        const int twice = 2 * error;
        if (twice >= down) error += down, from.column += right;
        if (twice <= across) error += across, from.row += below;
    }
}

std::vector<CellAt> cells_in_ellipse(const TileBox& box, bool filled) {
    std::vector<CellAt> out;
    const double a = box.columns() / 2.0, b = box.rows() / 2.0;
    const auto inside = [&](int column, int row) {
        const double x = (column + 0.5 - box.low.column - a) / a, y = (row + 0.5 - box.low.row - b) / b;
        return x * x + y * y <= 1;
    };
    for (int row = box.low.row; row < box.high.row; ++row)
        for (int column = box.low.column; column < box.high.column; ++column) {
            if (!inside(column, row)) continue;
            const bool rim = !inside(column - 1, row) || !inside(column + 1, row) ||
                             !inside(column, row - 1) || !inside(column, row + 1);
            if (filled || rim) out.push_back({column, row});
        }
    return out;
}

TileBox box_between(CellAt a, CellAt b) {
    TileBox box = rubble::box_of(a);
    box.add(rubble::box_of(b));
    return box;
}

std::vector<TileRun> area_around(const TileGrid& grid, CellAt cell, int64_t most) {
    const TileBox& area = grid.area();
    if (!area.contains(cell)) return {};
    // Which cells are still to be looked at, all at once, chunk by chunk: a look at one is then a look at a
    // byte.
    const Tile wanted = grid.at(cell);
    const size_t width = size_t(area.columns());
    std::vector<char> open(width * size_t(area.rows()), wanted.empty());
    const auto mark = [&](int column, int row) -> char& {
        return open[size_t(row - area.low.row) * width + size_t(column - area.low.column)];
    };
    grid.for_each_chunk([&](int chunk_column, int chunk_row, const Shared<TileGrid::Chunk>& chunk) {
        for (int r = 0; r < chunk_cells; ++r)
            for (int c = 0; c < chunk_cells; ++c) {
                const CellAt at{chunk_column * chunk_cells + c, chunk_row * chunk_cells + r};
                const Tile tile = (*chunk)[size_t(r * chunk_cells + c)];
                if (area.contains(at))
                    mark(at.column, at.row) = tile.number() == wanted.number() &&
                                              tile.mirrored() == wanted.mirrored() &&
                                              tile.turns() == wanted.turns();
            }
    });
    // Runs of rows, each looked at once (Smith 1979).
    std::vector<TileRun> runs;
    std::vector<CellAt> seeds{cell};
    int64_t count = 0;
    while (!seeds.empty() && count < most) {
        const CellAt seed = seeds.back();
        seeds.pop_back();
        if (!mark(seed.column, seed.row)) continue;
        int from = seed.column, to = seed.column + 1;
        while (from > area.low.column && mark(from - 1, seed.row)) --from;
        while (to < area.high.column && mark(to, seed.row)) ++to;
        std::fill_n(&mark(from, seed.row), to - from, 0);
        runs.push_back({{from, seed.row}, to});
        count += to - from;
        for (const int row : {seed.row - 1, seed.row + 1}) {
            if (row < area.low.row || row >= area.high.row) continue;
            bool in_run = false;
            for (int column = from; column < to; ++column) {
                const bool wants = mark(column, row);
                if (wants && !in_run) seeds.push_back({column, row});
                in_run = wants;
            }
        }
    }
    return runs;
}

TileChanges stamped(const Stamp& stamp, std::span<const CellAt> at) {
    TileChanges out;
    for (const CellAt& cell : at)
        for (int row = 0; row < stamp.rows; ++row)
            for (int column = 0; column < stamp.columns; ++column)
                if (const Tile tile = stamp.at(column, row); !tile.empty() || stamp.tiles.size() == 1)
                    out.push_back({{cell.column + column, cell.row + row}, tile});
    return out;
}

TileChanges filled(const Stamp& stamp, std::span<const CellAt> cells, CellAt from) {
    TileChanges out;
    for (const CellAt& cell : cells)
        if (const Tile tile = stamp.repeated(cell, from); !tile.empty() || stamp.tiles.size() == 1)
            out.push_back({cell, tile});
    return out;
}

TileGrid filled(const TileGrid& grid, const Stamp& stamp, std::span<const TileRun> runs, CellAt from) {
    TileGridMaker maker(grid);
    for (const TileRun& run : runs) {
        if (stamp.tiles.size() == 1) {
            maker.put_run(run.from, run.to, stamp.tiles[0]);
            continue;
        }
        for (CellAt cell = run.from; cell.column < run.to; ++cell.column)
            if (const Tile tile = stamp.repeated(cell, from); !tile.empty()) maker.put(cell, tile);
    }
    return maker.finished();
}

TileChanges replaced(const TileGrid& grid, int number, int by) {
    TileChanges out;
    grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
        if (tile.number() == number)
            out.push_back({at, Tile(by, tile.mirrored(), tile.turns(), tile.by_hand())});
    });
    return out;
}

const TileLayer* tile_layer(const Level& level, const LayerId& layer) {
    for (const auto& one : level.layers)
        if (one->id == layer) return one->tiles ? one->tiles->get() : nullptr;
    return nullptr;
}

Level with_tile_layer(const Level& level, const LayerId& layer, TileLayer tiles) {
    Level out = level;
    for (Shared<Layer>& one : out.layers) {
        if (one->id != layer || !one->tiles) continue;
        Layer changed = *one;
        changed.tiles = Shared<TileLayer>(counted_anew(std::move(tiles), level.frame));
        one = Shared<Layer>(std::move(changed));
        break;
    }
    return out;
}

Level with_tiles(const Level& level, const LayerId& layer, std::span<const TileGrid::Change> changes) {
    const TileLayer* before = tile_layer(level, layer);
    if (!before) return level;
    TileLayer tiles = *before;
    tiles.grid = before->grid.with(changes);
    return with_tile_layer(level, layer, std::move(tiles));
}

Project with_sheet(const Project& project, TileSheet sheet) {
    Project out = project;
    auto made = std::make_shared<const TileSheet>(std::move(sheet));
    for (auto& one : out.sheets)
        if (one->file == made->file) {
            one = made;
            return with_assemblies_resolved(std::move(out)); // blocks of tiles are in assemblies too
        }
    out.sheets.push_back(std::move(made));
    return with_assemblies_resolved(std::move(out));
}

} // namespace rubble::edit
