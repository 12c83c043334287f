#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

/// A box, or what a ramp is of it: its axes are rounded to ticks, so that its faces are exactly planar
/// however it is turned.
BrushBody body_of_box(const Brush& brush) {
    const Placement& place = brush.place;
    const geometry::TickPoint x = geometry::to_ticks(place.direction({brush.size.x, 0, 0})),
                              y = geometry::to_ticks(place.direction({0, brush.size.y, 0})),
                              z = geometry::to_ticks(place.direction({0, 0, brush.size.z})),
                              o = geometry::to_ticks(
                                  place.to_level({-brush.size.x / 2, -brush.size.y / 2, 0}));
    BrushBody body;
    if (brush.shape == Shape::ramp) {
        body.points = {o, o + x, o + x + y, o + y, o + x + z, o + x + y + z};
        body.faces = {{{0, 3, 2, 1}, BoxSide::bottom},
                      {{0, 1, 4}, BoxSide::near},
                      {{3, 5, 2}, BoxSide::away},
                      {{1, 2, 5, 4}, BoxSide::right},
                      {{0, 4, 5, 3}, BoxSide::top}};
        return body;
    }
    body.points = {o, o + x, o + x + y, o + y, o + z, o + x + z, o + x + y + z, o + y + z};
    body.faces = {{{0, 4, 7, 3}, BoxSide::left},   {{1, 2, 6, 5}, BoxSide::right},
                  {{0, 1, 5, 4}, BoxSide::near},   {{3, 7, 6, 2}, BoxSide::away},
                  {{0, 3, 2, 1}, BoxSide::bottom}, {{4, 5, 6, 7}, BoxSide::top}};
    return body;
}

} // namespace

ShapeKind box() { return {.shape = Shape::box, .key = "box", .word = "box", .body = body_of_box}; }
ShapeKind ramp() { return {.shape = Shape::ramp, .key = "ramp", .word = "ramp", .body = body_of_box}; }

} // namespace rubble::shapes
