#pragma once

#include <optional>
#include <string>
#include <utility>

namespace rubble {

/// A picture as it came in a file: its bytes are kept as they are, and handed on as they are.
struct PictureBytes {
    std::string name;
    std::string mime; ///< "image/png", "image/jpeg"
    std::string bytes;
    bool operator==(const PictureBytes&) const = default;
};

/// What kind of picture some bytes are by how they begin; empty where they are neither PNG nor JPEG.
std::string picture_mime(const std::string& bytes);

/// Width and height in pixels as a picture's header says (ISO/IEC 15948 for PNG, ITU-T T.81 for JPEG);
/// nothing where there is none.
std::optional<std::pair<int, int>> picture_size(const std::string& bytes);

} // namespace rubble
