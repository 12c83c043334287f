#pragma once

#include <cstdint>

namespace rubble {

/// What a cell of a tile layer holds: nothing, or a tile of the layer's sheet, mirrored left to right and
/// then turned by quarters counter-clockwise. Four bytes, for layers have very many cells.
class Tile {
public:
    /// The largest number that a tile of a sheet can have.
    static constexpr int most = (1 << 27) - 2;

    constexpr Tile() = default;
    /// A tile by its number, 0 to `most`; any other number is an empty cell.
    constexpr explicit Tile(int number, bool mirrored = false, int turns = 0, bool by_hand = false)
        : bits_(number < 0 || number > most ? 0
                                            : uint32_t(number + 1) << 4 | uint32_t(by_hand) << 3 |
                                                  uint32_t(mirrored) << 2 | uint32_t(turns & 3)) {}

    constexpr bool empty() const { return bits_ == 0; }
    /// -1 where the cell is empty.
    constexpr int number() const { return int(bits_ >> 4) - 1; }
    constexpr bool mirrored() const { return bits_ & 4; }
    /// Quarter turns counter-clockwise, after mirroring: 0 to 3.
    constexpr int turns() const { return int(bits_ & 3); }
    /// Whether edging leaves it as it is.
    constexpr bool by_hand() const { return bits_ & 8; }

    /// The same tile turned by quarters counter-clockwise as it lies.
    constexpr Tile turned(int quarters) const {
        return Tile(number(), mirrored(), turns() + quarters, by_hand());
    }
    /// The same tile mirrored left to right as it lies.
    constexpr Tile flipped() const { return Tile(number(), !mirrored(), 4 - turns(), by_hand()); }

    constexpr bool operator==(const Tile&) const = default;

private:
    uint32_t bits_ = 0;
};

} // namespace rubble
