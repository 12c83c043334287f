#pragma once

#include <algorithm>
#include <cstddef>
#include <memory>
#include <vector>

namespace rubble {

/// A list as a value: copies share their contents, and a changed place is copied with its surroundings alone.
/// A tree of three levels: copying costs n / 512, changing one place of a copy 48 more.
template <class T> class SharedList {
public:
    static constexpr size_t piece_size = 16;

    SharedList() = default;
    explicit SharedList(const std::vector<T>& values) : size_(values.size()) {
        for (size_t i = 0; i < size_; i += piece_size) {
            if (i % branch_size == 0) branches_.push_back(std::make_shared<Branch>());
            branches_.back()->push_back(std::make_shared<Piece>(
                values.begin() + long(i), values.begin() + long(std::min(size_, i + piece_size))));
        }
    }

    size_t size() const { return size_; }
    bool empty() const { return size_ == 0; }
    const T& operator[](size_t i) const { return (*piece(i))[i % piece_size]; }

    /// The first place from `i` on that another list of this size does not share, so that all before it is
    /// the same in both; the size where there is none.
    size_t next_not_shared(const SharedList& other, size_t i) const {
        while (i < size_) {
            if (branches_[i / branch_size] == other.branches_[i / branch_size])
                i = (i / branch_size + 1) * branch_size;
            else if (piece(i) == other.piece(i))
                i = (i / piece_size + 1) * piece_size;
            else
                return i;
        }
        return size_;
    }

    void set(size_t i, T value) {
        std::shared_ptr<Branch>& branch = branches_[i / branch_size];
        if (branch.use_count() > 1) branch = std::make_shared<Branch>(*branch);
        std::shared_ptr<Piece>& piece = (*branch)[i % branch_size / piece_size];
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
    using Branch = std::vector<std::shared_ptr<Piece>>;
    static constexpr size_t branch_size = piece_size * 32; ///< places in one

    const std::shared_ptr<Piece>& piece(size_t i) const {
        return (*branches_[i / branch_size])[i % branch_size / piece_size];
    }

    std::vector<std::shared_ptr<Branch>> branches_;
    size_t size_ = 0;
};

} // namespace rubble
