#pragma once

#include <algorithm>
#include <cmath>

#include <QLineF>

namespace rubble::app {

/// How near the pointer must be to what it catches, in pixels.
constexpr double k_catch_px = 12;
/// How far a pressed pointer moves before it is a drag.
constexpr double k_drag_px = 4;

inline double distance(QPointF a, QPointF b) { return std::hypot(a.x() - b.x(), a.y() - b.y()); }

/// How far a point of the screen lies from a line on it, and where along the line it is nearest, from 0 to 1.
inline double distance(const QLineF& line, QPointF p, double& along) {
    const QPointF way = line.p2() - line.p1(), to = p - line.p1();
    const double square = QPointF::dotProduct(way, way);
    along = square > 0 ? std::clamp(QPointF::dotProduct(to, way) / square, 0.0, 1.0) : 0;
    return distance(line.pointAt(along), p);
}
inline double distance(const QLineF& line, QPointF p) {
    double along = 0;
    return distance(line, p, along);
}

} // namespace rubble::app
