#pragma once

#include <cstddef>
#include <cstdint>
#include <span>

namespace rubble {

/// Random numbers that are the same on every machine (SplitMix64: Steele, Lea and Flood, "Fast splittable
/// pseudorandom number generators", 2014).
class RandomSource {
public:
    explicit RandomSource(uint64_t seed) : state_(seed) {}

    uint64_t next() {
        uint64_t z = state_ += 0x9E3779B97F4A7C15u;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9u;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBu;
        return z ^ (z >> 31);
    }
    /// From 0 up to, and without, `end`, which is above 0.
    uint64_t below(uint64_t end) {
        const uint64_t unfair = (0 - end) % end; // so many would come up once more often than others
        uint64_t drawn = next();
        while (drawn < unfair) drawn = next();
        return drawn % end;
    }
    /// An index drawn by whole weights, of which one is above 0.
    size_t weighted(std::span<const uint64_t> weights) {
        uint64_t sum = 0;
        for (const uint64_t weight : weights) sum += weight;
        uint64_t left = below(sum);
        size_t i = 0;
        for (; left >= weights[i]; ++i) left -= weights[i];
        return i;
    }

private:
    uint64_t state_;
};

} // namespace rubble
