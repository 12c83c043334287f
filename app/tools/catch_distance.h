#pragma once

#include <cmath>

#include <QPointF>

namespace rubble::app {

/// How near the pointer must be to what it catches, in pixels.
constexpr double k_catch_px = 12;
/// How far a pressed pointer moves before it is a drag.
constexpr double k_drag_px = 4;

inline double distance(QPointF a, QPointF b) { return std::hypot(a.x() - b.x(), a.y() - b.y()); }

} // namespace rubble::app
