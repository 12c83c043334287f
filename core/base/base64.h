#pragma once

#include <cstdint>
#include <string>

namespace rubble {

/// Bytes as text of 64 characters (RFC 4648, section 4).
inline std::string base64_of(const std::string& bytes) {
    static constexpr char k_digits[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    out.reserve((bytes.size() + 2) / 3 * 4);
    for (size_t at = 0; at < bytes.size(); at += 3) {
        uint32_t three = 0;
        for (size_t i = 0; i < 3; ++i)
            three = three << 8 | (at + i < bytes.size() ? uint8_t(bytes[at + i]) : uint8_t(0));
        for (size_t i = 0; i < 4; ++i)
            out += at + i > bytes.size() ? '=' : k_digits[three >> (18 - 6 * i) & 63];
    }
    return out;
}

} // namespace rubble
