#pragma once

#include "io/json_text.h"
#include "level/tiles/tile_layer.h"

namespace rubble::io {

/// A tile layer's own keys put after those that `json` has.
Json tiles_json(const TileLayer& layer, Frame frame, Json json);
/// A tile layer from its keys; what is wrong with them is told to the reader. Its sheet is only named.
TileLayer read_tiles(Reader& in);

/// A cell as rows write it: a number, `m` where it is mirrored, `r1` to `r3` for quarter turns; -1 empty.
std::string text_of(Tile tile);
/// The cells of a row that commas part; an error says which of them is none.
Result<std::vector<Tile>> tiles_of_row(const std::string& row, const std::string& place);

} // namespace rubble::io
