#pragma once

#include <optional>

#include <QPointF>
#include <QSizeF>

#include <glm/mat4x4.hpp>

#include "geometry/vec.h"

namespace rubble::app {

struct Ray {
    Vec3 from{0};
    Vec3 direction{0, 1, 0}; ///< unit length
    Vec3 at(double t) const { return from + direction * t; }
};

/// A camera made ready for putting many places onto the screen.
struct Projection {
    bool flat = false;
    Vec3 eye{0}, forward{0}, right{0}, up{0};
    double unit = 1; ///< metres that a pixel spans at one metre of depth; in flat views at any
    QPointF middle;

    /// Nothing for places behind the eye.
    std::optional<QPointF> operator()(const Vec3& at) const;
};

/// How the level is seen, as a value: a place looked at, a direction and a distance (space), or flat with a
/// scale: straight down (plan), from the front, or from the right side. Maps between the level and the screen
/// both ways.
struct Camera {
    /// Freely looking about, or flat: from above, from the front, from the right.
    enum class Kind { free, above, front, right };
    Kind kind = Kind::free;
    Vec3 target{0};
    double heading_deg = 60; ///< of the direction of looking, counter-clockwise from +x
    double tilt_deg = 35;    ///< down
    double distance_m = 24;
    double field_deg = 50;
    QSizeF size{100, 100};
    /// Of a flat view, what is seen of the depth: from here to there along the way of looking, in metres from
    /// the level's origin; all while both are nothing.
    struct Slice {
        double from, to;
    };
    std::optional<Slice> slice;
    /// Whether a place lies in what is seen of the depth.
    bool holds(const Vec3& at) const;
    /// Where the slice ends, in the depth of what is drawn: from -1 to 1; 2 where there is none.
    double slice_end() const;

    static Camera first_person(const Vec3& eye, double heading_deg, double tilt_deg, double field_deg,
                               QSizeF size);

    bool flat() const { return kind != Kind::free; }
    Vec3 forward() const;
    Vec3 right() const;
    Vec3 up() const;
    Vec3 eye() const;
    /// Metres that one pixel spans at a place.
    double metres_per_pixel(const Vec3& at) const;
    /// Of a slice too it reaches far behind its end: whether matter goes on there is seen at its front.
    glm::mat4 matrix() const;

    Projection projection() const;
    /// Nothing for places behind the eye.
    std::optional<QPointF> to_screen(const Vec3& at) const { return projection()(at); }
    Ray ray(QPointF screen) const;

    Camera panned(QPointF by) const;
    Camera turned(QPointF by) const;
    /// Nearer (factor < 1) or farther, keeping the place under the pointer there.
    Camera zoomed(double factor, QPointF about) const;
    /// Moved so that a box fills the view.
    Camera framing(const Box3& box) const;
    /// The same as near as it can be to some boxes, with what is seen of them in the middle of the view: what
    /// is looked at is not the middle of all then. A level seldom fills the box around it.
    Camera filling(const std::vector<Box3>& boxes) const;
};

} // namespace rubble::app
