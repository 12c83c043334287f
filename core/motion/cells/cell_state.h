#pragma once

#include <array>
#include <compare>
#include <cstddef>
#include <cstdint>

namespace rubble::motion {

inline constexpr int most_crates = 32, most_foes = 8, most_puzzle_bits = 256;
inline constexpr int most_puzzle_cells = 1 << 15;

/// What elements have changed in play. Two that are equal play alike. Where one does not go from cell to cell
/// only the bits count.
struct CellState {
    /// A crate that fills the cell it was pushed into.
    static constexpr uint16_t filled = 1 << 15;
    /// A crate that a dispenser has not given yet; no level has that cell.
    static constexpr uint16_t stored = filled - 1;

    uint16_t figure = 0;
    std::array<uint16_t, most_crates> crates{}; ///< the upper left cell of each
    std::array<uint16_t, most_foes> foes{};     ///< where on its way each is
    std::array<uint64_t, most_puzzle_bits / 64> bits{};

    /// Whether a crate stands in the level.
    bool stands(size_t crate) const { return !(crates[crate] & filled) && crates[crate] != stored; }
    bool has(int bit) const { return bits[size_t(bit) >> 6] >> (bit & 63) & 1; }
    void set(int bit) { bits[size_t(bit) >> 6] |= uint64_t(1) << (bit & 63); }
    void flip(int bit) { bits[size_t(bit) >> 6] ^= uint64_t(1) << (bit & 63); }
    auto operator<=>(const CellState&) const = default;
};

} // namespace rubble::motion
