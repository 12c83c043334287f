#include "level/placement.h"

#include <glm/gtc/quaternion.hpp>

namespace rubble {

Rotation rotation_onto(const Vec3& x, const Vec3& y, const Vec3& z) {
    const glm::dquat q = glm::quat_cast(glm::dmat3(x, y, z));
    return {q.x, q.y, q.z, q.w};
}

} // namespace rubble
