#pragma once

#include <algorithm>
#include <memory>
#include <random>

#include "edit/grey_sheet.h"
#include "level/level.h"

namespace rubble::bench {

/// A Side level of one layer of tiles.
inline Level level_of(TileLayer tiles) {
    Level level;
    level.name = "Tiles";
    level.frame = Frame::side;
    level.character = {"courier"};
    Layer ground;
    ground.id = {"ground"};
    ground.tiles = Shared<TileLayer>(std::move(tiles));
    level.layers.push_back(std::move(ground));
    return level;
}

/// Hills of full cells and slopes with hollows and decks, half of the cells solid.
inline TileLayer terrain(int columns, int rows) {
    std::mt19937 random(3);
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    TileLayer tiles;
    tiles.solid = true;
    tiles.sheet = std::make_shared<const TileSheet>(edit::grey_sheet(16));
    tiles.origin = {0, 0, rows * tiles.cell_m};
    TileGridMaker maker;
    int height = rows / 2, until = 0, way = 0;
    for (int column = 0; column < columns; ++column) {
        if (until-- <= 0) way = whole(-1, 1), until = whole(3, 9);
        const int next = std::clamp(height + way, rows / 4, rows * 3 / 4);
        const int top = rows - std::max(height, next);
        for (int row = top; row < rows; ++row) maker.put({column, row}, Tile(0));
        if (next != height) maker.put({column, top}, Tile(next > height ? 5 : 6));
        height = next;
    }
    for (int i = 0; i < columns / 6; ++i) {
        const int left = whole(0, columns - 12), top = whole(rows / 8, rows - 8), wide = whole(3, 10);
        const bool hollow = whole(0, 2) == 0;
        for (int row = top; row < top + (hollow ? whole(4, 6) : 1); ++row)
            for (int column = left; column < left + wide; ++column)
                maker.put({column, row}, hollow ? Tile() : Tile(whole(0, 3) == 0 ? 14 : 0));
    }
    tiles.grid = maker.finished({{0, 0}, {columns, rows}});
    return tiles;
}

} // namespace rubble::bench
