#include "level/placement.h"

#include <algorithm>
#include <cmath>

namespace rubble {

Rotation rotation_onto(const Vec3& x, const Vec3& y, const Vec3& z) {
    const std::array<double, 4> squares{1 + x.x - y.y - z.z, 1 - x.x + y.y - z.z, 1 - x.x - y.y + z.z,
                                        1 + x.x + y.y + z.z};
    const size_t largest = size_t(std::max_element(squares.begin(), squares.end()) - squares.begin());
    const double half = std::sqrt(squares[largest]) / 2, part = 0.25 / half;
    switch (largest) {
    case 0:
        return {half, (x.y + y.x) * part, (z.x + x.z) * part, (y.z - z.y) * part};
    case 1:
        return {(x.y + y.x) * part, half, (y.z + z.y) * part, (z.x - x.z) * part};
    case 2:
        return {(z.x + x.z) * part, (y.z + z.y) * part, half, (x.y - y.x) * part};
    default:
        return {(y.z - z.y) * part, (z.x - x.z) * part, (x.y - y.x) * part, half};
    }
}

} // namespace rubble
