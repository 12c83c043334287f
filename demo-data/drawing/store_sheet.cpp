#include "store_sheet.h"

#include <algorithm>

namespace rubble::demo {

namespace {

constexpr int k_px = 32;

void floor(Canvas& canvas, int seed) {
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x)
            canvas.dot(x, y, shaded(paint::concrete, 1.06 + 0.05 * grain(x / 2, y / 2, seed)));
    const Color joint = shaded(paint::concrete, 0.92);
    canvas.rect(0, 0, k_px, 1, joint), canvas.rect(0, 0, 1, k_px, joint);
    if (seed == 2) canvas.disc(20, 12, 5, shaded(paint::concrete, 0.99));
    if (seed == 3) canvas.line(18, 31, 27, 20, shaded(paint::concrete, 0.9));
}

/// A wall from above: a lime rim where the room is, brick within.
void wall(Canvas& canvas, GroundAround around) {
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x) {
            int rim = k_px; // how far the nearest open side is
            if (!around.has(GroundAround::above)) rim = std::min(rim, y);
            if (!around.has(GroundAround::below)) rim = std::min(rim, k_px - 1 - y);
            if (!around.has(GroundAround::left)) rim = std::min(rim, x);
            if (!around.has(GroundAround::right)) rim = std::min(rim, k_px - 1 - x);
            // Inner corners, where only the cell across is open.
            const int right = k_px - 1 - x, below = k_px - 1 - y;
            if (!around.has(GroundAround::upper_left)) rim = std::min(rim, std::max(x, y));
            if (!around.has(GroundAround::upper_right)) rim = std::min(rim, std::max(right, y));
            if (!around.has(GroundAround::lower_left)) rim = std::min(rim, std::max(x, below));
            if (!around.has(GroundAround::lower_right)) rim = std::min(rim, std::max(right, below));
            const bool joint = y % 8 == 7 || (x + y / 8 % 2 * 8) % 16 == 15;
            Color color = joint ? paint::mortar : shaded(paint::brick, 0.92 + 0.12 * grain(x / 8, y / 8, 5));
            if (rim < 7) color = shaded(paint::lime, rim == 0 ? 0.72 : rim == 6 ? 0.8 : 1.0);
            canvas.dot(x, y, color);
        }
}

/// A pallet with its shadow, on which a stack lies; from `left` to `right`.
void pallet(Canvas& canvas, int left, int right) {
    canvas.rect(left + 2, 3, right - left, 29, {0x2A, 0x27, 0x23, 70});
    canvas.boards(left, 1, right - left, 29, 5, paint::timber, false, 3);
}

void sacks(Canvas& canvas) {
    pallet(canvas, 1, 31);
    for (int y = 3; y < 28; y += 9)
        for (int x = 3; x < 28; x += 13) {
            canvas.block(x, y, 12, 8, paint::rope);
            canvas.rect(x + 3, y + 3, 6, 1, shaded(paint::rope, 0.75));
        }
}

void fish_boxes(Canvas& canvas) {
    pallet(canvas, 1, 31);
    for (int y = 3; y < 28; y += 13)
        for (int x = 3; x < 28; x += 13) {
            canvas.block(x, y, 12, 12, paint::tide);
            canvas.block(x + 2, y + 2, 8, 8, shaded(paint::tide, 0.75));
            canvas.rect(x + 4, y + 5, 4, 2, paint::foam);
        }
}

void barrels(Canvas& canvas) {
    pallet(canvas, 1, 31);
    for (const auto& [x, y] : {std::pair{9, 9}, {22, 9}, {9, 22}, {22, 22}}) {
        canvas.disc(x, y, 6, paint::iron);
        canvas.disc(x, y, 5, shaded(paint::clay, 0.95));
        canvas.disc(x, y, 3, shaded(paint::clay, 1.12));
        canvas.dot(x + 2, y - 2, paint::shade);
    }
}

void crates(Canvas& canvas) {
    pallet(canvas, 1, 31);
    canvas.block(3, 3, 16, 25, shaded(paint::timber, 1.12));
    canvas.line(4, 4, 17, 26, shaded(paint::timber, 0.8)),
        canvas.line(17, 4, 4, 26, shaded(paint::timber, 0.8));
    canvas.block(20, 3, 9, 12, shaded(paint::lime, 1.05));
    canvas.block(20, 16, 9, 12, shaded(paint::brick, 1.1));
}

void bare_pallets(Canvas& canvas) {
    pallet(canvas, 1, 31);
    canvas.boards(3, 3, 26, 25, 6, shaded(paint::timber, 1.1), true, 7);
    canvas.rect(3, 8, 26, 2, paint::dark_timber), canvas.rect(3, 21, 26, 2, paint::dark_timber);
}

void leaning(Canvas& canvas) {
    pallet(canvas, 0, 9);
    canvas.boards(0, 1, 9, 29, 3, shaded(paint::timber, 1.15), true, 9);
}

void pit(Canvas& canvas) {
    canvas.rect(0, 0, k_px, k_px, shaded(paint::tide, 0.62));
    for (int y = 4; y < k_px; y += 8)
        for (int x = 0; x < k_px; ++x)
            if (grain(x / 6, y, 4) > 0.4) canvas.dot(x, y + x / 6 % 2, shaded(paint::tide, 1.1));
    canvas.rect(0, 0, k_px, 2, paint::shade), canvas.rect(0, 0, 2, k_px, paint::shade);
}

void arrow(Canvas& canvas) {
    floor(canvas, 0);
    for (int i = 0; i < 9; ++i)
        canvas.rect(7 + i, 7 + i, 3, 1, paint::lamp), canvas.rect(7 + i, 24 - i, 3, 1, paint::lamp);
    canvas.rect(4, 15, 14, 2, paint::lamp);
}

void drain(Canvas& canvas) {
    floor(canvas, 0);
    canvas.block(8, 8, 16, 16, paint::iron);
    for (int x = 10; x < 23; x += 3) canvas.rect(x, 10, 1, 12, paint::shade);
}

} // namespace

StoreSheet store_sheet() {
    SheetMaker maker("pallet-store", k_px, 8, 8);
    maker.add_ground("Wall", true, wall, TileCollision::full);
    StoreSheet out;
    for (int i = 0; i < int(out.floor.size()); ++i)
        out.floor[size_t(i)] = maker.add("Floor " + std::to_string(i + 1), [i](Canvas& c) { floor(c, i); });
    const std::array<std::pair<const char*, void (*)(Canvas&)>, 5> stacks{{{"Sacks", sacks},
                                                                           {"Fish boxes", fish_boxes},
                                                                           {"Barrels", barrels},
                                                                           {"Crates", crates},
                                                                           {"Bare pallets", bare_pallets}}};
    for (size_t i = 0; i < stacks.size(); ++i)
        out.stacks[i] = maker.add(stacks[i].first, stacks[i].second, TileCollision::full);
    out.leaning =
        maker.add("Leaning pallet", leaning, TileCollision::outline, {{0, 0}, {0.28, 0}, {0.28, 1}, {0, 1}});
    out.pit = maker.add("Open hatch", pit, TileCollision::none, {}, TileActs::deadly);
    out.arrow = maker.add("Arrow", arrow);
    out.drain = maker.add("Drain", drain);
    out.sheet = maker.finished();
    return out;
}

} // namespace rubble::demo
