#pragma once

#include <array>
#include <bit>
#include <cstddef>
#include <memory>

namespace rubble {

/// A list that only grows and never moves what it holds, so that readers on other threads may look at what
/// was there when they were given it, while one writer adds more.
template <class T> class GrowingList {
public:
    size_t size() const { return size_; }
    const T& operator[](size_t i) const {
        const auto [block, at] = place_of(i);
        return blocks_[block][at];
    }
    void push_back(T value) {
        const auto [block, at] = place_of(size_);
        if (!blocks_[block]) blocks_[block] = std::make_unique<T[]>(k_first << block);
        blocks_[block][at] = std::move(value);
        ++size_;
    }

private:
    static constexpr size_t k_first = 256; ///< things in the first block; each next one holds twice as many
    struct Place {
        size_t block, at;
    };
    static Place place_of(size_t i) {
        const size_t block = size_t(std::bit_width(i / k_first + 1)) - 1;
        return {block, i - k_first * ((size_t(1) << block) - 1)};
    }

    std::array<std::unique_ptr<T[]>, 40> blocks_;
    size_t size_ = 0;
};

} // namespace rubble
