#pragma once

#include <filesystem>

#include "base/result.h"
#include "build/tile_matter.h"
#include "level/document.h"

namespace rubble::io {

// What levels of tiles are handed off as. Each of these writes several files: the one that is named, and
// beside it one for each layer, with the layer's id before the ending.

/// Rows of tile numbers of the first solid layer, or the first; beside it the rows of the others, what
/// collides as rows of 0 and 1 (`.collision.csv`), and the elements (`.elements.csv`). Of a level without
/// tiles, the elements.
Result<void> export_csv(const Project& project, const Level& level, const std::filesystem::path& path);
/// The layers as a picture, those behind first; beside it each layer alone. A pixel of a sheet is a pixel.
Result<void> export_png(const Project& project, const Level& level, const std::filesystem::path& path);
/// What collides as merged outlines, with the elements' places, as a drawing in metres.
Result<void> export_svg(const Project& project, const Level& level, const std::filesystem::path& path);
/// The same outlines as numbers.
Result<void> export_outlines(const Project& project, const Level& level, const std::filesystem::path& path);

/// What of a level's tiles and placed pictures collides, of one kind and one layer or picture.
struct TileMatter {
    build::TileMatterKind kind = build::TileMatterKind::solid;
    ItemId source; ///< the picture, or the layer by its id
    std::string name;
    std::vector<build::TilePrism> prisms;
    std::vector<std::vector<Vec2>> outlines; ///< around them, merged
};
/// All of it, by source and kind.
std::vector<TileMatter> tile_matter_of(const Level& level);
/// In exports.
const char* key_of(build::TileMatterKind kind);

} // namespace rubble::io
