#pragma once

#include <filesystem>

#include "base/result.h"
#include "level/tiles/tile_sheet.h"

namespace rubble::io {

/// Largest width and height of a picture that is read (pixels), and the most pixels of it.
inline constexpr int k_widest_picture = 65536;
inline constexpr int64_t k_most_pixels = int64_t(1) << 28;

/// A PNG of any kind (palette, grey, 16 bits, interlaced, with or without opacity) as bytes of sRGB.
/// Errors: not there, no PNG, damaged, or too large for memory.
Result<Picture> load_picture(const std::filesystem::path& path);
/// The same from a file's bytes; `place` names it in messages.
Result<Picture> picture_from_png(const std::string& bytes, const std::string& place);
/// A picture as the bytes of a PNG.
Result<std::string> png_of(const Picture& picture);
/// Writes a PNG whole or not at all.
Result<void> save_picture(const Picture& picture, const std::filesystem::path& path);

} // namespace rubble::io
