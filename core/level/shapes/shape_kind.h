#pragma once

#include <span>
#include <vector>

#include "level/brush_shape.h"

namespace rubble {

/// A number that a shape has besides its size: a count or a measure, by its key in files.
struct ShapeNumber {
    const char* key;
    int Brush::*count = nullptr; ///< whole, from `least` to `most`; else a measure
    double Brush::*measure = nullptr;
    int least = 0, most = 0;
    bool (*used)(const Brush&) = nullptr; ///< null: always
};

/// What the rest of a brush's data a shape is made of.
enum class ShapeData { size, plan_points, body, cells };

/// A kind of shape. A new one is a file that makes such a row, its line in kinds.h and in the table, and its
/// name in the program (app/shape_list).
struct ShapeKind {
    Shape shape;
    const char* key;  ///< in files
    const char* word; ///< to be found by
    ShapeData data = ShapeData::size;
    bool round = false; ///< it lies in the base as an ellipse that the base box holds
    std::vector<ShapeNumber> numbers = {};
    BrushBody (*body)(const Brush&) = nullptr;
    /// What is wrong with its own values, by their key; empty where nothing is.
    std::string (*problem)(const Brush&) = nullptr;
    /// The box that it fills in its own axes; null: that of its size.
    Box3 (*own_box)(const Brush&) = nullptr;
};

/// In the order of `Shape`.
std::span<const ShapeKind> shape_kinds();
/// The row of a shape.
const ShapeKind& kind_of(Shape shape);

/// The brush without values that its shape has no use for, as a reader of its file would find it.
Brush with_own_values(Brush brush);

} // namespace rubble
