#pragma once

#include <vector>

#include <QPainter>

#include "session/session.h"
#include "view/camera.h"

namespace rubble::app {

/// What a selection is taken by: itself, a dot on one of its sides, the arrow above it, a ring about an axis,
/// a square by which all of it grows in proportion.
enum class Grip { body, side, raise, turn, size };

struct ItemHandle {
    Grip grip = Grip::body;
    BoxSide side = BoxSide::top;
    QPointF at;         ///< on the screen
    Vec3 place{0};      ///< in the level
    Vec3 axis{0, 0, 1}; ///< of a ring
    bool same_as(const ItemHandle& other) const {
        return grip == other.grip && side == other.side && axis == other.axis;
    }
};

/// Box around all that is selected.
Box3 selection_box(const Session& session);

/// The point of a box's side, counted along one of the level's axes, that stays when the side is dragged.
Vec3 opposite(const Box3& box, BoxSide side);

/// The handles of what is selected: all of a brush's; arrow, rings and squares of several items or a group,
/// arrow and ring of an element.
std::vector<ItemHandle> handles_of(const Session& session, const Camera& camera);

/// `hot` where the pointer is.
void draw_handle(QPainter& painter, const Session& session, const Camera& camera, const ItemHandle& handle,
                 bool hot);

} // namespace rubble::app
