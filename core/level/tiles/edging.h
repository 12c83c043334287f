#pragma once

#include <cstdint>
#include <map>
#include <string>

namespace rubble {

/// Which of the eight cells around one are of the same ground. Sides and, between two of them, corners; a
/// corner without both its sides looks like none, so there are 47 cases. Sets without corners know 16.
class GroundAround {
public:
    enum Neighbour : uint8_t {
        right = 1,
        upper_right = 2,
        above = 4,
        upper_left = 8,
        left = 16,
        lower_left = 32,
        below = 64,
        lower_right = 128
    };

    constexpr GroundAround() = default;
    /// Corners that look like none are left out.
    constexpr explicit GroundAround(uint8_t bits) : bits_(bits) {
        const auto needs = [&](Neighbour corner, Neighbour a, Neighbour b) {
            if (!(bits_ & a) || !(bits_ & b)) bits_ &= uint8_t(~corner);
        };
        needs(upper_right, right, above), needs(upper_left, above, left);
        needs(lower_left, left, below), needs(lower_right, below, right);
    }
    constexpr uint8_t bits() const { return bits_; }
    constexpr bool has(Neighbour one) const { return bits_ & one; }
    /// The same seen by a set that knows no corners: as if all were there.
    constexpr GroundAround without_corners() const {
        return GroundAround(uint8_t(bits_ | upper_right | upper_left | lower_left | lower_right));
    }
    constexpr auto operator<=>(const GroundAround&) const = default;

private:
    uint8_t bits_ = 0;
};

/// Which tiles of a sheet are a ground's filling, edges and corners: painted areas choose them by themselves.
struct Edging {
    std::string name;
    std::map<GroundAround, int> tiles; ///< by what is around them
    bool operator==(const Edging&) const = default;

    /// Whether a tile belongs to the ground.
    bool holds(int number) const {
        for (const auto& [around, tile] : tiles)
            if (tile == number) return true;
        return false;
    }
};

} // namespace rubble
