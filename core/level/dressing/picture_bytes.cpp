#include "level/dressing/picture_bytes.h"

#include <cstddef>
#include <cstdint>

namespace rubble {

namespace {

constexpr size_t k_png_header = 24;

/// A whole number, its most significant byte first.
uint32_t number_at(const std::string& bytes, size_t at, size_t count) {
    uint32_t out = 0;
    for (size_t i = 0; i < count; ++i) out = out << 8 | uint8_t(bytes[at + i]);
    return out;
}

/// Whether a JPEG marker begins a frame, which says how large it is.
bool begins_frame(uint8_t marker) {
    return marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
}

std::optional<std::pair<int, int>> jpeg_size(const std::string& bytes) {
    size_t at = 2;
    while (at + 9 <= bytes.size() && uint8_t(bytes[at]) == 0xFF) {
        const uint8_t marker = uint8_t(bytes[at + 1]);
        if (marker == 0xFF) { // may be repeated before a marker
            ++at;
            continue;
        }
        if (begins_frame(marker))
            return {{int(number_at(bytes, at + 7, 2)), int(number_at(bytes, at + 5, 2))}};
        at += 2 + number_at(bytes, at + 2, 2);
    }
    return {};
}

} // namespace

std::string picture_mime(const std::string& bytes) {
    if (bytes.starts_with("\x89PNG\r\n\x1A\n")) return "image/png";
    if (bytes.starts_with("\xFF\xD8\xFF")) return "image/jpeg";
    return {};
}

std::optional<std::pair<int, int>> picture_size(const std::string& bytes) {
    const std::string mime = picture_mime(bytes);
    if (mime == "image/jpeg") return jpeg_size(bytes);
    if (mime != "image/png" || bytes.size() < k_png_header) return {};
    constexpr uint32_t k_most = 1u << 24;
    const uint32_t width = number_at(bytes, 16, 4), height = number_at(bytes, 20, 4);
    if (width == 0 || height == 0 || width > k_most || height > k_most) return {};
    return {{int(width), int(height)}};
}

} // namespace rubble
