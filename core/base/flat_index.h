#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include <boost/container/small_vector.hpp>

namespace rubble {

/// Finds things of a list by their hash: open addressing over one array, for lists so long that following a
/// pointer for each would be most of the work. The things themselves stay with the caller.
class FlatIndex {
public:
    explicit FlatIndex(size_t expected = 0) {
        size_t size = 16;
        while (size < 2 * expected) size *= 2;
        slots_.resize(size);
    }

    /// The position of the thing for which `same(position)` holds among those of this hash; where there is
    /// none, `fresh` is remembered for it and given back.
    template <class Same> int find_or_add(uint64_t hash, int fresh, Same same) {
        if (2 * (used_ + 1) > slots_.size()) grow();
        size_t at = hash & (slots_.size() - 1);
        for (; slots_[at].position >= 0; at = (at + 1) & (slots_.size() - 1))
            if (slots_[at].hash == hash && same(slots_[at].position)) return slots_[at].position;
        slots_[at] = {hash, fresh};
        ++used_;
        return fresh;
    }

    /// The same without adding: -1 where there is none.
    template <class Same> int find(uint64_t hash, Same same) const {
        for (size_t at = hash & (slots_.size() - 1); slots_[at].position >= 0;
             at = (at + 1) & (slots_.size() - 1))
            if (slots_[at].hash == hash && same(slots_[at].position)) return slots_[at].position;
        return -1;
    }

private:
    struct Slot {
        uint64_t hash = 0;
        int position = -1;
    };

    void grow() {
        const std::vector<Slot> before(slots_.begin(), slots_.end());
        slots_.assign(before.size() * 2, Slot{});
        for (const Slot& slot : before) {
            if (slot.position < 0) continue;
            size_t at = slot.hash & (slots_.size() - 1);
            while (slots_[at].position >= 0) at = (at + 1) & (slots_.size() - 1);
            slots_[at] = slot;
        }
    }

    boost::container::small_vector<Slot, 128> slots_; // few things need no memory of their own
    size_t used_ = 0;
};

} // namespace rubble
