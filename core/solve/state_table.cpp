#include "solve/state_table.h"

namespace rubble::solve {

namespace {

/// The last thing that changes among the bits, with those before it.
size_t bits_of(const motion::CellPuzzle& puzzle) {
    int most = -1;
    const auto note = [&](int bit) { most = std::max(most, bit); };
    for (const auto& thing : puzzle.things) note(thing.bit);
    for (const auto& door : puzzle.doors) note(door.opened), note(door.paid);
    for (const auto& press : puzzle.switches) note(press.bit);
    for (const auto& floor : puzzle.floor) note(floor.crumbles);
    return size_t(most + 1);
}

/// Mixes 64 bits (the last step of MurmurHash3, A. Appleby, public domain).
uint64_t mixed(uint64_t h) {
    h ^= h >> 33, h *= 0xff51afd7ed558ccdULL;
    h ^= h >> 33, h *= 0xc4ceb9fe1a85ec53ULL;
    return h ^ (h >> 33);
}

/// Never 0.
uint8_t tag_of(uint64_t hash) { return uint8_t(hash >> 56) | 1; }

} // namespace

StateTable::StateTable(const motion::CellPuzzle& puzzle)
    : crates_(puzzle.crates.size()),
      foes_(puzzle.foes.size()),
      bit_bytes_((bits_of(puzzle) + 7) / 8),
      bytes_(2 + 2 * crates_ + 2 * foes_ + bit_bytes_),
      places_(1 << 12),
      tags_(1 << 12),
      scratch_(bytes_) {}

void StateTable::pack(const motion::CellState& state, uint8_t* out) const {
    std::memcpy(out, &state.figure, 2), out += 2;
    std::memcpy(out, state.crates.data(), 2 * crates_), out += 2 * crates_;
    std::memcpy(out, state.foes.data(), 2 * foes_), out += 2 * foes_;
    std::memcpy(out, state.bits.data(), bit_bytes_);
}

motion::CellState StateTable::at(uint32_t number) const {
    motion::CellState state;
    const uint8_t* from = packed_.data() + size_t(number) * bytes_;
    std::memcpy(&state.figure, from, 2), from += 2;
    std::memcpy(state.crates.data(), from, 2 * crates_), from += 2 * crates_;
    std::memcpy(state.foes.data(), from, 2 * foes_), from += 2 * foes_;
    std::memcpy(state.bits.data(), from, bit_bytes_);
    return state;
}

uint64_t StateTable::hash_of(const uint8_t* packed) const {
    uint64_t hash = bytes_;
    for (size_t i = 0; i < bytes_; i += 8) {
        uint64_t word = 0;
        std::memcpy(&word, packed + i, std::min<size_t>(8, bytes_ - i));
        hash = mixed(hash ^ word) + 0x9e3779b97f4a7c15ULL;
    }
    return hash;
}

void StateTable::grow() {
    std::vector<uint32_t> places(places_.size() * 4);
    std::vector<uint8_t> tags(places.size());
    const size_t mask = places.size() - 1;
    for (uint32_t n = 0; n < size_; ++n) {
        const uint64_t hash = hash_of(packed_.data() + size_t(n) * bytes_);
        size_t at = hash & mask;
        while (tags[at] != 0) at = (at + 1) & mask;
        places[at] = n, tags[at] = tag_of(hash);
    }
    places_ = std::move(places), tags_ = std::move(tags);
}

StateTable::Place StateTable::add(const motion::CellState& state) {
    if ((size_ + 1) * 3 > places_.size() * 2) grow();
    pack(state, scratch_.data());
    const size_t mask = places_.size() - 1;
    const uint64_t hash = hash_of(scratch_.data());
    const uint8_t tag = tag_of(hash);
    for (size_t at = hash & mask;; at = (at + 1) & mask) {
        if (tags_[at] == 0) {
            places_[at] = uint32_t(size_), tags_[at] = tag;
            packed_.insert(packed_.end(), scratch_.begin(), scratch_.end());
            return {uint32_t(size_++), true};
        }
        const uint32_t known = places_[at];
        if (tags_[at] == tag &&
            std::memcmp(packed_.data() + size_t(known) * bytes_, scratch_.data(), bytes_) == 0)
            return {known, false};
    }
}

} // namespace rubble::solve
