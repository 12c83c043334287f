#pragma once

#include "io/json_text.h"
#include "level/level.h"

namespace rubble::io {

/// The rows of a layer as comma-separated tile numbers (-1 empty; m, r1 to r3 as in level files). `trimmed`
/// leaves out what is empty at the rows' ends.
std::string csv_of(const TileGrid& grid, bool trimmed = false);
/// What collides of a layer as rows of 0 and 1: 1 where a cell keeps the character out in any way.
std::string collision_csv_of(const TileLayer& layer);

/// What rows of a CSV are where they are not all of one length.
enum class RaggedRows { refuse, fill_up };
/// Cells from comma-separated numbers: any line ends, with or without a byte order mark, one comma after a
/// row's last cell. Rows of unequal length are refused with a message that says which, unless they are to be
/// filled up with empty cells at their ends; nothing is ever shifted.
Result<TileGrid> grid_from_csv(const std::string& text, const std::string& place,
                               RaggedRows ragged = RaggedRows::refuse);

} // namespace rubble::io
