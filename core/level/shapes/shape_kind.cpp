#include "level/shapes/shape_kind.h"

#include <algorithm>
#include <array>

#include "base/ensure.h"
#include "level/shapes/kinds.h"

namespace rubble {

std::span<const ShapeKind> shape_kinds() {
    static const std::array k_kinds{
        shapes::box(),      shapes::ramp(), shapes::stairs(), shapes::curved_stairs(), shapes::cylinder(),
        shapes::cone(),     shapes::ball(), shapes::arch(),   shapes::pipe(),          shapes::outline(),
        shapes::wall_run(), shapes::body(), shapes::mass()};
    return k_kinds;
}

const ShapeKind& kind_of(Shape shape) {
    const ShapeKind& kind = shape_kinds()[size_t(shape)];
    RUBBLE_ENSURE(kind.shape == shape, return kind);
    return kind;
}

Brush with_own_values(Brush brush) {
    const Brush plain;
    const ShapeKind& kind = kind_of(brush.shape);
    const auto has = [&](const ShapeNumber& number) {
        return std::any_of(kind.numbers.begin(), kind.numbers.end(), [&](const ShapeNumber& own) {
            return own.count == number.count && own.measure == number.measure &&
                   (!own.used || own.used(brush));
        });
    };
    if (brush.shape != Shape::arch) brush.arch = plain.arch;
    for (const ShapeKind& other : shape_kinds())
        for (const ShapeNumber& number : other.numbers) {
            if (has(number)) continue;
            if (number.count) brush.*number.count = plain.*number.count;
            if (number.measure) brush.*number.measure = plain.*number.measure;
        }
    if (brush.shape != Shape::wall_run) brush.closed = false;
    if (brush.shape != Shape::outline) brush.holes.clear();
    if (kind.data != ShapeData::plan_points) brush.points.clear();
    if (kind.data != ShapeData::cells) brush.cells = {};
    if (kind.data != ShapeData::body) {
        brush.corners.clear(), brush.faces.clear(), brush.face_numbers.clear();
        brush.next_face_number = 0;
    }
    return brush;
}

} // namespace rubble
