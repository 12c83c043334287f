#pragma once

#include <cstdint>
#include <cstring>
#include <vector>

#include "motion/cells/puzzle.h"

namespace rubble::solve {

/// Each state of play once, in as few bytes as a puzzle needs, numbered in the order in which they came.
class StateTable {
public:
    explicit StateTable(const motion::CellPuzzle& puzzle);

    /// The number of a state, and whether it is new.
    struct Place {
        uint32_t number;
        bool is_new;
    };
    Place add(const motion::CellState& state);
    /// Makes ready to add states: what memory they need is fetched meanwhile.
    template <class States, class Of> void expect(const States& states, Of state_of) {
        for (const auto& one : states) {
            pack(state_of(one), scratch_.data());
            __builtin_prefetch(&tags_[hash_of(scratch_.data()) & (tags_.size() - 1)]);
        }
    }
    /// The state of a number.
    motion::CellState at(uint32_t number) const;
    size_t size() const { return size_; }
    /// Bytes that one state takes, without its place in the table.
    size_t bytes_each() const { return bytes_; }

private:
    void pack(const motion::CellState& state, uint8_t* out) const;
    uint64_t hash_of(const uint8_t* packed) const;
    void grow();

    size_t crates_, foes_, bit_bytes_, bytes_;
    std::vector<uint8_t> packed_;  ///< one state after the other
    std::vector<uint32_t> places_; ///< by hash, with open addressing: a number
    std::vector<uint8_t> tags_;    ///< of the same: some bits of the hash; 0 where nothing is
    std::vector<uint8_t> scratch_;
    size_t size_ = 0;
};

} // namespace rubble::solve
