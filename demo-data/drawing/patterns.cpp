#include "patterns.h"

#include <cmath>
#include <functional>
#include <optional>

#include "canvas.h"

namespace rubble::demo {

namespace {

constexpr int k_side = 256;

/// Clouds of a size that repeat with the picture, 0 up to 1.
double clouds(int x, int y, int size, int seed) {
    const int count = k_side / size;
    const auto at = [&](int i, int k) { return grain((i + count) % count, (k + count) % count, seed); };
    const double u = double(x) / size, v = double(y) / size;
    const int i = int(std::floor(u)), k = int(std::floor(v));
    const auto eased = [](double t) { return t * t * (3 - 2 * t); };
    const double s = eased(u - i), t = eased(v - k);
    return (at(i, k) * (1 - s) + at(i + 1, k) * s) * (1 - t) +
           (at(i, k + 1) * (1 - s) + at(i + 1, k + 1) * s) * t;
}

/// Uneven as all that was made by hand: shades from large spots to single dots.
Color weathered(Color color, int x, int y, int seed, double much) {
    const double spots = clouds(x, y, 64, seed) - 0.5, stains = clouds(x, y, 16, seed + 1) - 0.5,
                 dots = grain(x, y, seed + 2) - 0.5;
    return shaded(color, 1 + much * (0.5 * spots + 0.3 * stains + 0.2 * dots));
}

Picture drawn(const std::function<Color(int, int)>& color_at) {
    Picture out = blank(k_side, k_side);
    Canvas canvas(out, 0, 0, k_side, k_side);
    for (int y = 0; y < k_side; ++y)
        for (int x = 0; x < k_side; ++x) canvas.dot(x, y, color_at(x, y));
    return out;
}

/// Courses of stones, each course half a stone aside.
Picture courses(int stone_w, int stone_h, int joint, Color stone, Color mortar, double much, int seed) {
    return drawn([=](int x, int y) {
        const int course = y / stone_h, shifted = (x + (course % 2) * stone_w / 2) % k_side;
        const int within_x = shifted % stone_w, within_y = y % stone_h;
        if (within_x < joint || within_y < joint) return weathered(mortar, x, y, seed, 0.2);
        const double own = 0.82 + 0.36 * grain(shifted / stone_w, course, seed + 9);
        const bool lit = within_y == joint || within_x == joint, dark = within_y == stone_h - 1;
        return shaded(weathered(stone, x, y, seed + 3, much), own * (lit ? 1.12 : dark ? 0.85 : 1));
    });
}

Picture planks(Color color, int board, bool upright, int seed) {
    return drawn([=](int x, int y) {
        const int across = upright ? x : y, along = upright ? y : x;
        const int number = across / board, within = across % board;
        if (within == 0) return shaded(paint::shade, 0.8);
        // Each board has an end of its own, and its grain runs along it.
        const int end = int(grain(number, 7, seed) * k_side);
        if ((along - end + k_side) % k_side < 2) return shaded(paint::shade, 0.9);
        const double fibre =
            clouds(upright ? (x * 8) % k_side : x, upright ? y : (y * 8) % k_side, 16, seed + number);
        const double own = 0.85 + 0.3 * grain(number, 3, seed);
        return shaded(weathered(color, x, y, seed, 0.15), own * (0.9 + 0.2 * fibre));
    });
}

Picture sheet_metal() {
    constexpr int k_wave = 32;
    return drawn([](int x, int y) {
        const double wave = std::sin(2 * 3.14159265358979 * x / k_wave);
        const double rust = clouds(x, y, 32, 71) * clouds(x, y, 8, 72);
        const Color metal =
            mixed(paint::iron, paint::clay, rust > 0.45 ? std::min((rust - 0.45) * 3, 0.7) : 0);
        return shaded(weathered(metal, x, y, 70, 0.15), 1 + 0.25 * wave);
    });
}

Picture steel_plate() {
    return drawn([](int x, int y) {
        // Raised drops, every other one turned.
        const int cell = 32, i = x / cell, k = y / cell;
        const double u = x % cell - cell / 2.0, v = y % cell - cell / 2.0;
        const bool turned = (i + k) % 2;
        const double a = (u + v) * 0.7071, b = (u - v) * 0.7071;
        const double along = turned ? a : b, across = turned ? b : a;
        const double drop = 1 - (along * along / 121 + across * across / 12);
        const Color steel = weathered(paint::iron, x, y, 80, 0.2);
        if (drop > 0) return shaded(steel, across < 0 ? 1.35 : 1.1);
        return drop > -0.35 && across > 0 ? shaded(steel, 0.75) : steel;
    });
}

Picture concrete(Color color, int seed) {
    return drawn([=](int x, int y) {
        const bool form = y % 128 == 0 || x % k_side == 0; // where the boards of the form met
        const bool hole = (x % 128 - 64) * (x % 128 - 64) + (y % 128 - 64) * (y % 128 - 64) < 14;
        return shaded(weathered(color, x, y, seed, 0.25), hole ? 0.6 : form ? 0.85 : 1);
    });
}

Picture tar_paper() {
    return drawn([](int x, int y) {
        const bool lap = y % 64 < 3;
        return shaded(weathered({0x4C, 0x4A, 0x48}, x, y, 90, 0.3), lap ? 0.75 : y % 64 == 3 ? 1.15 : 1);
    });
}

Picture rope_net() {
    return drawn([](int x, int y) {
        constexpr int k_mesh = 64;
        const auto strand = [&](int across, int along) {
            const int off = ((across % k_mesh) + k_mesh) % k_mesh;
            const int from = std::min(off, k_mesh - off);
            if (from > 4) return std::optional<Color>();
            const double twist = 0.85 + 0.3 * double((along + 3 * off) % 8 < 4);
            return std::optional(shaded(paint::rope, twist * (1 - 0.06 * from)));
        };
        if (const auto one = strand(x + y, x)) return *one;
        if (const auto other = strand(x - y, y)) return *other;
        return Color{0, 0, 0, 0};
    });
}

Picture cobbles() {
    return drawn([](int x, int y) {
        // The nearest of stones that lie one to a cell, and how much nearer than the next.
        constexpr int k_cell = 32, k_cells = k_side / k_cell;
        double first = 1e9, second = 1e9;
        int stone = 0;
        for (int k = y / k_cell - 1; k <= y / k_cell + 1; ++k)
            for (int i = x / k_cell - 1; i <= x / k_cell + 1; ++i) {
                const int ci = (i + k_cells) % k_cells, ck = (k + k_cells) % k_cells;
                const double px = (i + 0.2 + 0.6 * grain(ci, ck, 101)) * k_cell,
                             py = (k + 0.2 + 0.6 * grain(ci, ck, 102)) * k_cell;
                const double far = std::hypot(x - px, y - py);
                if (far < first)
                    second = first, first = far, stone = ck * k_cells + ci;
                else
                    second = std::min(second, far);
            }
        if (second - first < 3) return weathered(paint::shade, x, y, 103, 0.3);
        return shaded(weathered(paint::concrete, x, y, 104, 0.25),
                      (0.75 + 0.35 * grain(stone, 5, 105)) * (1.1 - 0.012 * first));
    });
}

/// Four signs beside each other, each framed by empty border.
Picture signs() {
    Picture out = blank(k_side, k_side);
    constexpr int k_half = k_side / 2, k_border = 8;
    const auto board = [&](int column, int row, Color ground, const std::function<void(Canvas&)>& draw) {
        Canvas canvas(out, column * k_half + k_border, row * k_half + k_border, k_half - 2 * k_border,
                      k_half - 2 * k_border);
        for (int y = 0; y < canvas.height(); ++y)
            for (int x = 0; x < canvas.width(); ++x) {
                const bool rim = x < 4 || y < 4 || x >= canvas.width() - 4 || y >= canvas.height() - 4;
                canvas.dot(x, y, rim ? paint::shade : weathered(ground, x, y, 110, 0.12));
            }
        draw(canvas);
    };
    board(0, 0, paint::lamp, [](Canvas& c) { // this way
        for (int i = 0; i < 32; ++i) {
            c.rect(64 + i, 56 - (32 - i), 2, 2 * (32 - i), paint::shade);
        }
        c.rect(16, 46, 50, 20, paint::shade);
    });
    board(1, 0, paint::clay, [](Canvas& c) { // no way
        c.disc(56, 56, 38, paint::lime);
        c.rect(26, 48, 60, 16, paint::clay);
    });
    board(0, 1, paint::lime, [](Canvas& c) { // a fish
        for (int x = 0; x < 60; ++x) {
            const int half = int(22 * std::sin(3.14159265 * x / 60));
            c.rect(18 + x, 56 - half, 1, 2 * half + 1, paint::tide);
        }
        for (int x = 0; x < 20; ++x) c.rect(76 + x, 56 - x, 1, 2 * x + 1, paint::tide);
        c.disc(32, 52, 3, paint::lime);
    });
    board(1, 1, paint::tide, [](Canvas& c) { // dock two
        for (int row = 0; row < 2; ++row)
            for (int i = 0; i < 2; ++i) c.rect(30 + 30 * i, 24 + 34 * row, 20, 26, paint::foam);
    });
    return out;
}

} // namespace

std::vector<DrawnPattern> drawn_patterns() {
    return {{"brick.png", courses(64, 32, 4, paint::brick, paint::mortar, 0.25, 10)},
            {"block.png", courses(128, 64, 3, paint::lime, paint::concrete, 0.2, 20)},
            {"tile.png", courses(32, 32, 2, paint::foam, paint::haze, 0.08, 30)},
            {"plank.png", planks(paint::timber, 32, false, 40)},
            {"wall-boards.png", planks(paint::dark_timber, 43, true, 50)},
            {"concrete.png", concrete(paint::concrete, 60)},
            {"sheet-metal.png", sheet_metal()},
            {"steel-plate.png", steel_plate()},
            {"tar-paper.png", tar_paper()},
            {"rope-net.png", rope_net()},
            {"cobbles.png", cobbles()},
            {"signs.png", signs()}};
}

} // namespace rubble::demo
