#pragma once

#include "tools/tool.h"

namespace rubble::app {

// A picture of a sheet that is cut at its empty borders, in the hand: it is placed freely.

/// Where it would come to stand: the middle of its lower side, on the grid unless Alt is held; nothing where
/// what is in the hand is no such picture.
std::optional<Vec3> place_for_picture(Session& session, const Pointer& pointer);
/// The item that would come there, as large as its pixels say.
std::optional<Item> picture_in_hand(Session& session, const Vec3& at);
/// The picture as it would stand there.
void draw_picture_in_hand(QPainter& painter, const Camera& camera, Session& session, const Vec3& at);

} // namespace rubble::app
