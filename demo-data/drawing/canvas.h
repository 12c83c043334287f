#pragma once

#include <cstdint>

#include "level/tiles/tile_sheet.h"

namespace rubble::demo {

struct Color {
    uint8_t r = 0, g = 0, b = 0, a = 255;
};

/// A colour lighter (above 1) or darker.
Color shaded(Color color, double by);
/// Part of the way from one colour to another.
Color mixed(Color from, Color to, double part);
/// 0 up to, without, 1: the same for the same pixel and seed on every machine.
double grain(int x, int y, int seed);

/// A part of a picture that is drawn on pixel by pixel; what lies outside it is left out.
class Canvas {
public:
    Canvas(Picture& picture, int left, int top, int width, int height)
        : picture_(picture),
          left_(left),
          top_(top),
          width_(width),
          height_(height) {}

    int width() const { return width_; }
    int height() const { return height_; }

    void dot(int x, int y, Color color);
    void rect(int x, int y, int width, int height, Color color);
    /// One pixel wide.
    void line(int x0, int y0, int x1, int y1, Color color);
    /// Filled.
    void disc(int x, int y, int radius, Color color);
    /// A filled box with a light upper and left rim and a dark lower and right one.
    void block(int x, int y, int width, int height, Color color);
    /// Boards side by side, each of its own shade; lying, or upright.
    void boards(int x, int y, int width, int height, int board, Color color, bool upright, int seed);

private:
    Picture& picture_;
    int left_, top_, width_, height_;
};

/// A picture in which nothing is drawn yet.
Picture blank(int width, int height);

/// The colours of all demo art.
namespace paint {
inline constexpr Color brick{0xB0, 0x7A, 0x62}, mortar{0xBC, 0x96, 0x82}, clay{0xC2, 0x66, 0x3E},
    lime{0xC9, 0xBF, 0xAD}, timber{0x9C, 0x7A, 0x4E}, dark_timber{0x6B, 0x53, 0x38}, iron{0x5E, 0x6B, 0x73},
    concrete{0xB3, 0xAD, 0xA1}, tide{0x3F, 0x7F, 0x86}, foam{0xCF, 0xE3, 0xDF}, haze{0xB4, 0xC4, 0xCB},
    far{0x9F, 0xB2, 0xBC}, rope{0xD2, 0xB8, 0x84}, shade{0x4A, 0x42, 0x3A}, glass{0x8F, 0xA9, 0xB2},
    lamp{0xE7, 0xC0, 0x62};
} // namespace paint

} // namespace rubble::demo
