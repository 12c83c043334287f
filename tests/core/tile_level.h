#pragma once

#include <map>
#include <string>
#include <vector>

#include "edit/grey_sheet.h"
#include "level/level.h"

namespace rubble::test {

/// The grey sheet, whose tiles the letters below stand for.
inline std::shared_ptr<const TileSheet> grey() {
    static const auto sheet = [] {
        TileSheet made = edit::grey_sheet(16);
        made.file = "sheets/grey.sheet.json";
        return std::make_shared<const TileSheet>(std::move(made));
    }();
    return sheet;
}

/// Which tile of the grey sheet a letter is: # whole, _ lower half, / and \ slopes, abcd gentle slopes (up
/// low, up high, down high, down low), s steps up, - deck, ^ spikes; all else is empty.
inline Tile tile_of(char letter) {
    static const std::map<char, int> numbers{{'#', 0},  {'_', 1},  {'/', 5},  {'\\', 6}, {'a', 8}, {'b', 9},
                                             {'c', 10}, {'d', 11}, {'s', 12}, {'-', 14}, {'^', 15}};
    const auto found = numbers.find(letter);
    return found == numbers.end() ? Tile() : Tile(found->second);
}

/// A level of one solid layer, drawn row by row: the lower left corner of the drawing lies at the origin.
inline Level tile_level(const std::vector<std::string>& rows, double cell_m = 0.5,
                        Frame frame = Frame::side) {
    TileGridMaker maker;
    size_t columns = 0;
    for (size_t row = 0; row < rows.size(); ++row) {
        columns = std::max(columns, rows[row].size());
        for (size_t column = 0; column < rows[row].size(); ++column)
            if (const Tile tile = tile_of(rows[row][column]); !tile.empty())
                maker.put({int(column), int(row)}, tile);
    }
    TileLayer tiles;
    tiles.cell_m = cell_m;
    tiles.origin[layout_of(frame).ahead] = cell_m * double(rows.size());
    tiles.solid = true;
    tiles.sheet = grey();
    tiles.sheet_file = grey()->file;
    tiles.grid = maker.finished({{0, 0}, {int(columns), int(rows.size())}});
    Level level;
    level.name = "Tiles";
    level.frame = frame;
    level.character = {"courier"};
    Layer ground;
    ground.id = {"ground"}, ground.name = "Ground";
    ground.tiles = Shared<TileLayer>(std::move(tiles));
    level.layers.push_back(std::move(ground));
    Layer play;
    play.id = {"play"};
    level.layers.push_back(std::move(play));
    return level;
}

/// The level with an element more.
inline Level with_element(Level level, const std::string& id, const std::string& kind, Vec3 at) {
    Layer play = *level.layers.back();
    play.items.push_back(Item{{id}, {}, false, Element{kind, at, 0, {}}, {}});
    level.layers.back() = std::move(play);
    return level;
}

inline Level with_claim(Level level, const std::string& id, Claim::Kind kind, const std::string& from,
                        const std::string& to) {
    level.claims.push_back({{id}, {}, kind, {from}, {to}, {}, {}, 0, {}});
    return level;
}

} // namespace rubble::test
