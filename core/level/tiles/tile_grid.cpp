#include "level/tiles/tile_grid.h"

#include <algorithm>
#include <set>

namespace rubble {

void TileBox::add(const TileBox& box) {
    if (box.empty()) return;
    if (empty()) {
        *this = box;
        return;
    }
    low = {std::min(low.column, box.low.column), std::min(low.row, box.low.row)};
    high = {std::max(high.column, box.high.column), std::max(high.row, box.high.row)};
}

TileBox TileBox::common(const TileBox& box) const {
    return {{std::max(low.column, box.low.column), std::max(low.row, box.low.row)},
            {std::min(high.column, box.high.column), std::min(high.row, box.high.row)}};
}

const Shared<TileGrid::Chunk>* TileGrid::chunk(int column, int row) const {
    const auto chunks = rows_.find(row);
    if (chunks == rows_.end()) return nullptr;
    const auto chunk = chunks->second->find(column);
    return chunk == chunks->second->end() ? nullptr : &chunk->second;
}

Tile TileGrid::at(CellAt cell) const {
    const Shared<Chunk>* held = chunk(chunk_of(cell.column), chunk_of(cell.row));
    return held ? (**held)[index_in_chunk(cell)] : Tile();
}

TileGrid TileGrid::with(std::span<const Change> changes) const {
    TileGridMaker maker(*this);
    for (const Change& change : changes) maker.put(change.at, change.tile);
    return maker.finished();
}

TileGrid TileGrid::with_area(const TileBox& box) const {
    TileGrid out = *this;
    out.area_.add(box);
    return out;
}

void TileGrid::for_each_chunk(const std::function<void(int, int, const Shared<Chunk>&)>& visit) const {
    for (const auto& [row, chunks] : rows_)
        for (const auto& [column, chunk] : *chunks) visit(column, row, chunk);
}

void TileGrid::for_each_tile(const TileBox& box, const std::function<void(CellAt, Tile)>& visit) const {
    if (box.empty()) return;
    const auto last_row = rows_.upper_bound(chunk_of(box.high.row - 1));
    for (auto chunks = rows_.lower_bound(chunk_of(box.low.row)); chunks != last_row; ++chunks)
        for (int r = 0; r < chunk_cells; ++r) {
            const int row = chunks->first * chunk_cells + r;
            if (row < box.low.row || row >= box.high.row) continue;
            const auto last = chunks->second->upper_bound(chunk_of(box.high.column - 1));
            for (auto one = chunks->second->lower_bound(chunk_of(box.low.column)); one != last; ++one)
                for (int c = 0; c < chunk_cells; ++c) {
                    const int column = one->first * chunk_cells + c;
                    const Tile tile = (*one->second)[size_t(r * chunk_cells + c)];
                    if (!tile.empty() && column >= box.low.column && column < box.high.column)
                        visit({column, row}, tile);
                }
        }
}

void TileGrid::for_each_changed_chunk(const TileGrid& a, const TileGrid& b,
                                      const std::function<void(const TileBox&)>& visit) {
    std::set<int> rows;
    for (const TileGrid* grid : {&a, &b})
        for (const auto& [row, chunks] : grid->rows_) rows.insert(row);
    for (const int row : rows) {
        const auto in_a = a.rows_.find(row), in_b = b.rows_.find(row);
        if (in_a != a.rows_.end() && in_b != b.rows_.end() && in_a->second.is(in_b->second)) continue;
        std::set<int> columns;
        for (const auto& [found, grid] : {std::pair{in_a, &a}, {in_b, &b}})
            if (found != grid->rows_.end())
                for (const auto& [column, chunk] : *found->second) columns.insert(column);
        for (const int column : columns) {
            const auto *one = a.chunk(column, row), *other = b.chunk(column, row);
            if (one && other && one->is(*other)) continue;
            const CellAt low{column * chunk_cells, row * chunk_cells};
            visit({low, {low.column + chunk_cells, low.row + chunk_cells}});
        }
    }
}

Tile TileGridMaker::at(CellAt cell) const {
    const auto made = made_.find({chunk_of(cell.row), chunk_of(cell.column)});
    return made == made_.end() ? grid_.at(cell) : (*made->second)[index_in_chunk(cell)];
}

TileGrid::Chunk& TileGridMaker::chunk_with(CellAt cell) {
    const std::pair place{chunk_of(cell.row), chunk_of(cell.column)};
    if (last_chunk_ && place == last_) return *last_chunk_;
    auto& made = made_[place];
    if (!made) {
        const auto* old = grid_.chunk(place.second, place.first);
        made = std::make_unique<TileGrid::Chunk>(old ? **old : TileGrid::Chunk{});
    }
    last_ = place, last_chunk_ = made.get();
    return *made;
}

void TileGridMaker::put_run(CellAt from, int to, Tile tile) {
    while (from.column < to) {
        const int end = std::min(to, (chunk_of(from.column) + 1) * chunk_cells);
        Tile* first = &chunk_with(from)[index_in_chunk(from)];
        std::fill(first, first + (end - from.column), tile);
        from.column = end;
    }
}

namespace {

/// The box of the cells of a chunk that are not empty.
TileBox filled_box(const TileGrid::Chunk& tiles, int chunk_column, int chunk_row) {
    int left = chunk_cells, right = -1, top = chunk_cells, bottom = -1;
    for (int r = 0; r < chunk_cells; ++r) {
        const Tile* row = &tiles[size_t(r * chunk_cells)];
        int first = 0, last = chunk_cells - 1;
        while (first < chunk_cells && row[first].empty()) ++first;
        if (first == chunk_cells) continue;
        while (row[last].empty()) --last;
        left = std::min(left, first), right = std::max(right, last);
        top = std::min(top, r), bottom = r;
    }
    if (right < 0) return {};
    const CellAt corner{chunk_column * chunk_cells, chunk_row * chunk_cells};
    return {{corner.column + left, corner.row + top}, {corner.column + right + 1, corner.row + bottom + 1}};
}

} // namespace

TileGrid TileGridMaker::finished(const TileBox& box) {
    TileGrid out = std::move(grid_);
    out.area_.add(box);
    for (auto next = made_.begin(); next != made_.end();) {
        const int row = next->first.first;
        const auto old = out.rows_.find(row);
        TileGrid::ChunkRow chunks = old == out.rows_.end() ? TileGrid::ChunkRow{} : *old->second;
        for (; next != made_.end() && next->first.first == row; ++next) {
            const int column = next->first.second;
            const TileBox filled = filled_box(*next->second, column, row);
            out.area_.add(filled);
            if (filled.empty())
                chunks.erase(column);
            else
                chunks[column] = Shared<TileGrid::Chunk>(*next->second);
            next->second.reset();
        }
        if (chunks.empty())
            out.rows_.erase(row);
        else
            out.rows_[row] = Shared<TileGrid::ChunkRow>(std::move(chunks));
    }
    *this = TileGridMaker();
    return out;
}

} // namespace rubble
