#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// The placed picture, or block of tiles, of which something is drawn under the pointer, nearest to the eye;
/// nothing where none is, or what is pointed at lies before it. Pictures that are hidden or locked are not
/// caught.
std::optional<ItemId> picture_under(const Session& session, const Pointer& pointer);

/// Outlines the area whose tiles were picked up, where one is marked.
void draw_picked_area(QPainter& painter, const Camera& camera, const Session& session);

} // namespace rubble::app
