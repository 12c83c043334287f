#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "geometry/vec.h"

namespace rubble::io {

/// One line of a drawing, in the drawing's units with y up; curves are cut into pieces.
struct SvgPath {
    std::string name; ///< its id; empty where it has none
    std::vector<Vec2> points;
    bool closed = false;
    int shape = 0; ///< lines of the same shape share this: holes lie in the line they are cut from
    bool operator==(const SvgPath&) const = default;
};

struct SvgDrawing {
    std::vector<SvgPath> paths;
    /// Metres that one unit is, where the drawing says how large it is (in mm, cm, m, in, pt or pc); else 0.
    double metres_per_unit = 0;
    Vec2 size{0};                     ///< of the drawing, in its units
    std::vector<std::string> remarks; ///< what was left out, in English
};

/// The lines of an SVG drawing (W3C, Scalable Vector Graphics 1.1): paths, rectangles, circles, ellipses,
/// lines, polylines and polygons, moved as their groups say. Text, pictures and what is defined for use
/// elsewhere are left out. An error where it is no SVG, or holds more than a million points.
Result<SvgDrawing> svg_from_text(const std::string& text, const std::string& place);

} // namespace rubble::io
