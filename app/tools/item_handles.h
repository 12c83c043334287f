#pragma once

#include <vector>

#include <QPainter>

#include "session.h"
#include "view/camera.h"

namespace rubble::app {

/// What a selection is taken by: itself, a dot on one of its sides, the arrow above it, the ring beside it.
enum class Grip { body, side, raise, turn };

struct ItemHandle {
    Grip grip = Grip::body;
    BoxSide side = BoxSide::top;
    QPointF at;    ///< on the screen
    Vec3 place{0}; ///< in the level
};

/// Box around all that is selected.
Box3 selection_box(const Session& session);

/// The handles of what is selected: all of a brush's; arrow and ring of several items, a group or an element.
std::vector<ItemHandle> handles_of(const Session& session, const Camera& camera);

/// `hot` where the pointer is.
void draw_handle(QPainter& painter, const Session& session, const Camera& camera, const ItemHandle& handle,
                 bool hot);

} // namespace rubble::app
