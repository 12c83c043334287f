#pragma once

#include "geometry/vec.h"

namespace rubble {

/// How a level is built and played: walked in space, seen from the side, or seen from above.
enum class Frame { space, side, plan };

/// How a Plan level is walked: to any place, or from cell to cell.
enum class Walked { freely, by_cells };

/// How a frame lies in the coordinates that all levels share (x right, y away, z up). What depends on the
/// frame asks here and nowhere else.
struct FrameLayout {
    int right; ///< the axis along which things go to the right in the main view
    int ahead; ///< along which they go up the screen there: away in space, up from the side
    int out;   ///< the third, which the main view does not show
    int turn;  ///< about which items are turned when nothing else is said
    Vec3 down; ///< which way things fall; zero where nothing does
};

/// How a frame lies.
constexpr FrameLayout layout_of(Frame frame) {
    switch (frame) {
    case Frame::side:
        return {0, 2, 1, 1, {0, 0, -1}};
    case Frame::plan:
        return {0, 1, 2, 2, {0, 0, 0}};
    case Frame::space:
        break;
    }
    return {0, 1, 2, 2, {0, 0, -1}};
}

/// One metre along an axis (0 x, 1 y, 2 z).
inline Vec3 along(int axis) {
    Vec3 way(0);
    way[axis] = 1;
    return way;
}
/// The direction about which items of a frame turn counter-clockwise as its main view shows them.
inline Vec3 turn_axis(Frame frame) {
    const int axis = layout_of(frame).turn;
    return axis == 1 ? -along(axis) : along(axis); // from the side one looks along +y
}

} // namespace rubble
