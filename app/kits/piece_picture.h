#pragma once

#include <span>

#include <QImage>

#include "level/level.h"

namespace rubble::app {

/// A small picture of a model seen from in front, above and a little from the left, on no ground. `size` in
/// pixels.
QImage picture_of(const Model& model, const Project& project, QSize size);

/// The same with the bodies that keep the character out drawn over it as lines, and the joints with their
/// numbers.
QImage picture_with_matter(const Kit& kit, const Piece& piece, const Project& project, QSize size);

/// Several models side by side at one scale, each standing on one line, its middle at `places` (metres along
/// the line); `metres_wide` fills the picture's width. Draws over what the picture holds.
struct Shown {
    const Model* model;
    double at_m;
};
QImage side_by_side(std::span<const Shown> models, const Project& project, QSize size, double metres_wide);

/// How wide a model is as it is seen in such pictures (metres).
double seen_width(const Model& model);
/// How high likewise.
double seen_height(const Model& model);

} // namespace rubble::app
