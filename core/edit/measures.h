#pragma once

#include "level/level.h"

namespace rubble::edit {

// The measures that a team has agreed on: what of a level does not follow them, and how it is made to.

enum class Measure { wall, door, ceiling, corridor, overlap };

/// Something that is not as agreed.
struct Departure {
    ItemId item, other; ///< the other one of a pair; empty for measures of one item
    Measure measure = Measure::wall;
    double is_m = 0, agreed_m = 0;
    /// Whether `as_agreed` can put it right; a corridor or an overlap has many ways.
    bool can_follow() const { return other.empty(); }
    bool operator==(const Departure&) const = default;
};

/// How high doors are made for a character: as agreed, and never lower than it needs.
double door_height(const Measures& measures, const Character& character);

/// All that is not as agreed, in the order of the items. Walls are wall runs, shells and upright boxes that
/// are long, high and thin; doors are openings that begin at the ground; ceilings those of wall runs and of
/// rooms that are shells. Corridors and overlaps are looked for between boxes along the axes.
std::vector<Departure> departures(const Project& project, const Level& level);

/// The level with those that can made as agreed, about the middle of walls and from the base of heights.
Level as_agreed(const Level& level, std::span<const Departure> wanted);

} // namespace rubble::edit
