#include "edit/grey_sheet.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "edit/sheet_collision.h"

namespace rubble::edit {

namespace {

using Outline = std::vector<Vec2>;
using Color = std::array<uint8_t, 4>;

constexpr Color k_stone{0xBD, 0xB6, 0xA9, 255}, k_light{0xD8, 0xD2, 0xC6, 255}, k_dark{0x8E, 0x87, 0x7B, 255},
    k_red{0xB5, 0x53, 0x2D, 255};
constexpr int k_columns = 8, k_rows = 6;

void put(Picture& picture, int x, int y, const Color& color) {
    uint8_t* pixel = &picture.rgba[(size_t(y) * size_t(picture.width) + size_t(x)) * 4];
    std::copy(color.begin(), color.end(), pixel);
}

/// Draws a shape into a cell, with a light line along what looks up and a dark one along the rest of its rim
/// that is not the cell's own.
void draw(Picture& picture, const std::array<int, 4>& cell, const Outline& outline, const Color& fill) {
    const auto [left, top, w, h] = cell;
    const auto at = [&](int x, int y) { return in_outline(outline, {(x + 0.5) / w, 1 - (y + 0.5) / h}); };
    const int line = std::max(1, h / 16);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            if (!at(x, y)) continue;
            Color color = fill;
            if (x > 0 && x < w - 1 && y < h - 1 && (!at(x - 1, y) || !at(x + 1, y) || !at(x, y + 1)))
                color = k_dark;
            for (int up = 1; up <= line; ++up)
                if (y - up < 0 ? at(x, 0) && y < line : !at(x, y - up)) color = k_light;
            put(picture, left + x, top + y, color);
        }
}

struct GreyPiece {
    const char* name;
    Outline outline;
    TileCollision collision = TileCollision::outline;
    TileActs acts = TileActs::nothing;
};

std::vector<GreyPiece> grey_pieces() {
    const Outline whole{{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    return {
        {"Whole", whole, TileCollision::full},
        {"Lower half", {{0, 0}, {1, 0}, {1, 0.5}, {0, 0.5}}},
        {"Upper half", {{0, 0.5}, {1, 0.5}, {1, 1}, {0, 1}}},
        {"Left half", {{0, 0}, {0.5, 0}, {0.5, 1}, {0, 1}}},
        {"Right half", {{0.5, 0}, {1, 0}, {1, 1}, {0.5, 1}}},
        {"Slope up", {{0, 0}, {1, 0}, {1, 1}}},
        {"Slope down", {{0, 0}, {1, 0}, {0, 1}}},
        {"Wall", {{0.25, 0}, {0.75, 0}, {0.75, 1}, {0.25, 1}}},
        {"Gentle up, low", {{0, 0}, {1, 0}, {1, 0.5}}},
        {"Gentle up, high", {{0, 0}, {1, 0}, {1, 1}, {0, 0.5}}},
        {"Gentle down, high", {{0, 0}, {1, 0}, {1, 0.5}, {0, 1}}},
        {"Gentle down, low", {{0, 0}, {1, 0}, {0, 0.5}}},
        {"Steps up", {{0, 0}, {1, 0}, {1, 1}, {0.5, 1}, {0.5, 0.5}, {0, 0.5}}},
        {"Steps down", {{0, 0}, {1, 0}, {1, 0.5}, {0.5, 0.5}, {0.5, 1}, {0, 1}}},
        {"Deck", {{0, 0.75}, {1, 0.75}, {1, 1}, {0, 1}}, TileCollision::one_way},
        {"Spikes",
         {{0, 0},
          {1, 0},
          {0.875, 0.5},
          {0.75, 0},
          {0.625, 0.5},
          {0.5, 0},
          {0.375, 0.5},
          {0.25, 0},
          {0.125, 0.5}},
         TileCollision::none,
         TileActs::deadly},
        {"Corner, upper left", {{0, 0}, {1, 0}, {1, 1}, {0.25, 1}, {0, 0.75}}},
        {"Corner, upper right", {{0, 0}, {1, 0}, {1, 0.75}, {0.75, 1}, {0, 1}}},
        {"Corner, lower left", {{0.25, 0}, {1, 0}, {1, 1}, {0, 1}, {0, 0.25}}},
        {"Corner, lower right", {{0, 0}, {0.75, 0}, {1, 0.25}, {1, 1}, {0, 1}}},
        {"Slope under, left", {{0, 1}, {1, 0}, {1, 1}}},
        {"Slope under, right", {{0, 0}, {1, 1}, {0, 1}}},
        {"Blank block", whole, TileCollision::full},
        {"Backdrop", whole, TileCollision::none},
    };
}

} // namespace

TileSheet grey_sheet(int cell_px) {
    TileSheet sheet;
    sheet.cut.cell_px = {cell_px, cell_px};
    Picture picture;
    picture.width = k_columns * cell_px, picture.height = k_rows * cell_px;
    picture.rgba.assign(size_t(picture.width) * size_t(picture.height) * 4, 0);
    int number = 0;
    for (const GreyPiece& piece : grey_pieces()) {
        SheetTile tile;
        tile.at = {number % k_columns, number / k_columns};
        tile.name = piece.name;
        tile.collision = piece.collision, tile.acts = piece.acts;
        if (piece.collision == TileCollision::outline || piece.collision == TileCollision::one_way ||
            piece.acts != TileActs::nothing)
            tile.outline = piece.outline;
        const Color fill = piece.acts == TileActs::deadly           ? k_red
                           : piece.collision == TileCollision::none ? Color{0xE4, 0xEC, 0xEE, 255}
                                                                    : k_stone;
        draw(picture, pixels_of(sheet, tile), piece.outline, fill);
        sheet.tiles[number++] = std::move(tile);
    }
    sheet.picture = std::make_shared<const Picture>(std::move(picture));
    return sheet;
}

TileSheet with_grey_piece(const TileSheet& sheet, const std::vector<Vec2>& outline, const std::string& name,
                          TileCollision collision) {
    if (!sheet.picture || !is_simple(outline)) return sheet;
    const auto [columns, rows] = cells_in(sheet.cut, sheet.picture->width, sheet.picture->height);
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const bool taken = std::any_of(sheet.tiles.begin(), sheet.tiles.end(), [&](const auto& one) {
                return one.second.at == std::array{column, row};
            });
            if (taken) continue;
            TileSheet out = sheet;
            SheetTile tile;
            tile.at = {column, row}, tile.name = name, tile.collision = collision, tile.outline = outline;
            Picture picture = *sheet.picture;
            draw(picture, pixels_of(sheet, tile), outline, k_stone);
            out.picture = std::make_shared<const Picture>(std::move(picture));
            out.tiles[next_tile_number(sheet)] = std::move(tile);
            return out;
        }
    return sheet;
}

} // namespace rubble::edit
