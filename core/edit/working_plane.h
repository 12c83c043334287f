#pragma once

#include "level/brush.h"

namespace rubble::edit {

/// A plane to draw on, with axes of its own: u and v in it, n out of it, a right hand of unit lengths.
struct WorkingPlane {
    Vec3 at{0}, u{1, 0, 0}, v{0, 1, 0}, n{0, 0, 1};

    /// A place of the level in the plane's own axes.
    Vec3 to_own(const Vec3& at_level) const {
        const Vec3 d = at_level - at;
        return {glm::dot(d, u), glm::dot(d, v), glm::dot(d, n)};
    }
    /// A place in the plane's own axes in the level.
    Vec3 to_level(const Vec3& own) const { return at + u * own.x + v * own.y + n * own.z; }
    /// Whether it is the ground's own kind: what is drawn on it needs no turn.
    bool is_level() const { return n == Vec3(0, 0, 1); }
    bool operator==(const WorkingPlane&) const = default;
};

/// The plane of a face: u runs level along it. A level face, whichever way it looks, has the level's own
/// axes.
WorkingPlane plane_of_face(const Vec3& at, const Vec3& normal);

/// A place on whole micrometres: free of what mapping it to a plane's axes and back left behind.
Vec3 without_noise(const Vec3& place);

/// A brush that was made in the plane's axes, in the level, its place and size on whole micrometres.
Brush placed_on(Brush brush, const WorkingPlane& plane);

} // namespace rubble::edit
