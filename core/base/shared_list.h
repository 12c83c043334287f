#pragma once

#include <algorithm>
#include <cstddef>
#include <memory>
#include <vector>

namespace rubble {

/// A list as a value: copies share their contents in pieces, and a changed place is copied with its piece
/// alone. Copying and changing one place of n cost n / 64 and 64.
template <class T> class SharedList {
public:
    static constexpr size_t piece_size = 64;

    SharedList() = default;
    explicit SharedList(const std::vector<T>& values) : size_(values.size()) {
        for (size_t i = 0; i < size_; i += piece_size)
            pieces_.push_back(std::make_shared<Piece>(
                values.begin() + long(i), values.begin() + long(std::min(size_, i + piece_size))));
    }

    size_t size() const { return size_; }
    bool empty() const { return size_ == 0; }
    const T& operator[](size_t i) const { return (*pieces_[i / piece_size])[i % piece_size]; }

    /// Whether the piece that holds place `i` is the very same in both: all in it is the same.
    bool shares_piece(const SharedList& other, size_t i) const {
        return pieces_[i / piece_size] == other.pieces_[i / piece_size];
    }

    void set(size_t i, T value) {
        std::shared_ptr<Piece>& piece = pieces_[i / piece_size];
        if (piece.use_count() > 1) piece = std::make_shared<Piece>(*piece);
        (*piece)[i % piece_size] = std::move(value);
    }

    class Iterator {
    public:
        Iterator(const SharedList* list, size_t at) : list_(list), at_(at) {}
        const T& operator*() const { return (*list_)[at_]; }
        Iterator& operator++() {
            ++at_;
            return *this;
        }
        bool operator==(const Iterator&) const = default;

    private:
        const SharedList* list_;
        size_t at_;
    };
    Iterator begin() const { return {this, 0}; }
    Iterator end() const { return {this, size_}; }

private:
    using Piece = std::vector<T>;

    std::vector<std::shared_ptr<Piece>> pieces_;
    size_t size_ = 0;
};

} // namespace rubble
