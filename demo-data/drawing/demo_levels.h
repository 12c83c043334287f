#pragma once

#include "level/level.h"
#include "rooftop_sheets.h"
#include "store_sheet.h"

namespace rubble::demo {

/// Roofs over the water at low tide, seen from the side: a first gap that one climbs back from, then wider
/// ones over deep water. What collides is painted in cells of a metre and clothed with half of that.
Level low_tide_rooftops(const TileSheet& grey, const RooftopSheet& roofs, const HarbourSheet& harbour);

/// Two crews' ways to one scale, mirrored, of which one side was edited later.
Level twin_quays();

/// A maze of pallets seen from above, with a way through behind a leaning one for those who are slim.
Level pallet_store(const StoreSheet& store);

/// A level, and what its file is called.
struct NamedLevel {
    std::string file;
    Level level;
};
/// The store as puzzles of crates that are pushed, each harder than the one before, and one that can be
/// ruined unnoticed.
std::vector<NamedLevel> pallet_puzzles(const StoreSheet& store);

} // namespace rubble::demo
