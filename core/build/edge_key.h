#pragma once

#include <cstdint>

namespace rubble::build {

/// Two numbered points as one number.
inline uint64_t edge_key(int from, int to) { return uint64_t(uint32_t(from)) << 32 | uint32_t(to); }

/// Spreads keys that differ in few bits (the finaliser of MurmurHash3).
inline uint64_t hash_of_key(uint64_t key) {
    const uint64_t h = key * 0x9e3779b97f4a7c15u;
    return (h ^ h >> 32) * 0xff51afd7ed558ccdu >> 8;
}

} // namespace rubble::build
