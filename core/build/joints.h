#pragma once

#include <array>
#include <bitset>
#include <optional>
#include <string>

#include "level/kits/kit.h"

namespace rubble::build {

/// What makes a joint at a side of a cell of a module: what is open there with matter all around it, or,
/// where nothing is, the matter that reaches through. On a grid of squares over the side and an eighth of it
/// around, rows from below, columns from the left as the piece is seen from outside.
struct JointProfile {
    static constexpr int across = 192;
    double right_m = 0, up_m = 0; ///< width and height of the side
    bool opening = false;         ///< the squares are what is open; else what is matter
    std::array<std::bitset<across>, across> rows;

    /// The same seen from the other side.
    JointProfile from_within() const;
    /// Whether another is as good as the same.
    bool is_like(const JointProfile& other) const;
};

/// The profile of a side of a cell; nothing where no matter reaches through it, or it is closed but for a
/// gap. Up and down only openings count.
std::optional<JointProfile> profile_of(const Kit& kit, const Piece& piece, const std::array<int, 3>& cell,
                                       ModuleSide side);

/// The kit with the joints of its pieces found from their cross-sections: sides with equal profiles have
/// joints of one kind, and those that are each other's mirror image kinds that end in + and −. Pieces that
/// were put right by hand keep theirs, and what is like them gets their kinds.
Kit with_joints_found(Kit kit);

} // namespace rubble::build
