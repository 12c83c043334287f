#include "canvas.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace rubble::demo {

namespace {

uint8_t byte(double value) { return uint8_t(std::lround(std::clamp(value, 0.0, 255.0))); }

} // namespace

Color shaded(Color color, double by) {
    return {byte(color.r * by), byte(color.g * by), byte(color.b * by), color.a};
}

Color mixed(Color from, Color to, double part) {
    const auto mix = [&](uint8_t a, uint8_t b) { return byte(a + (b - a) * part); };
    return {mix(from.r, to.r), mix(from.g, to.g), mix(from.b, to.b), mix(from.a, to.a)};
}

double grain(int x, int y, int seed) {
    uint32_t bits = uint32_t(x) * 374761393u + uint32_t(y) * 668265263u + uint32_t(seed) * 2246822519u;
    bits = (bits ^ (bits >> 13)) * 1274126177u;
    bits = (bits ^ (bits >> 16)) * 2654435761u;
    return double((bits ^ (bits >> 15)) & 0xFFFF) / 65536;
}

void Canvas::dot(int x, int y, Color color) {
    if (x < 0 || y < 0 || x >= width_ || y >= height_) return;
    uint8_t* pixel = &picture_.rgba[(size_t(top_ + y) * size_t(picture_.width) + size_t(left_ + x)) * 4];
    pixel[0] = color.r, pixel[1] = color.g, pixel[2] = color.b, pixel[3] = color.a;
}

void Canvas::rect(int x, int y, int width, int height, Color color) {
    for (int row = y; row < y + height; ++row)
        for (int column = x; column < x + width; ++column) dot(column, row, color);
}

void Canvas::line(int x0, int y0, int x1, int y1, Color color) {
    const int steps = std::max({std::abs(x1 - x0), std::abs(y1 - y0), 1});
    for (int i = 0; i <= steps; ++i)
        dot(int(std::lround(x0 + double(x1 - x0) * i / steps)),
            int(std::lround(y0 + double(y1 - y0) * i / steps)), color);
}

void Canvas::disc(int x, int y, int radius, Color color) {
    for (int dy = -radius; dy <= radius; ++dy)
        for (int dx = -radius; dx <= radius; ++dx)
            if (dx * dx + dy * dy <= radius * radius + radius / 2) dot(x + dx, y + dy, color);
}

void Canvas::block(int x, int y, int width, int height, Color color) {
    rect(x, y, width, height, color);
    rect(x, y + height - 1, width, 1, shaded(color, 0.72));
    rect(x + width - 1, y, 1, height, shaded(color, 0.8));
    rect(x, y, width, 1, shaded(color, 1.2));
    rect(x, y, 1, height, shaded(color, 1.1));
}

void Canvas::boards(int x, int y, int width, int height, int board, Color color, bool upright, int seed) {
    for (int dy = 0; dy < height; ++dy)
        for (int dx = 0; dx < width; ++dx) {
            const int across = upright ? dx : dy, along = upright ? dy : dx;
            const int number = across / board;
            double light = 0.92 + 0.16 * grain(number, 0, seed);
            if (across % board == 0) light *= 1.12;
            if (across % board == board - 1) light *= 0.72;
            if (grain(along / 3, across, seed + 1) > 0.86) light *= 0.92; // the wood's lines
            dot(x + dx, y + dy, shaded(color, light));
        }
}

Picture blank(int width, int height) {
    Picture picture;
    picture.width = width, picture.height = height;
    picture.rgba.assign(size_t(width) * size_t(height) * 4, 0);
    return picture;
}

} // namespace rubble::demo
