#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <vector>

namespace rubble {

/// A list as a value: copies share their contents, and a changed place is copied with its surroundings alone.
/// A tree of three levels: copying costs n / 512, changing one place of a copy 48 more.
template <class T> class SharedList {
public:
    static constexpr size_t piece_size = 16;

    SharedList() = default;
    SharedList(const std::vector<T>& values) : SharedList(values.data(), values.size()) {} // NOLINT: the same
    SharedList(std::initializer_list<T> values) : SharedList(values.begin(), values.size()) {}

    size_t size() const { return size_; }
    bool empty() const { return size_ == 0; }
    const T& operator[](size_t i) const { return (*piece(i))[i % piece_size]; }
    const T& back() const { return (*this)[size_ - 1]; }

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

    /// Whether the two share all their contents, which is known without looking at any.
    bool is(const SharedList& other) const {
        return size_ == other.size_ && next_not_shared(other, 0) == size_;
    }
    bool operator==(const SharedList& other) const {
        if (size_ != other.size_) return false;
        for (size_t i = next_not_shared(other, 0); i < size_; i = next_not_shared(other, i + 1))
            if (!((*this)[i] == other[i])) return false;
        return true;
    }

    /// Puts a value in a place; other lists keep theirs.
    void set(size_t i, T value) { own_piece(i)[i % piece_size] = std::move(value); }

    void push_back(T value) {
        if (size_ % branch_size == 0) branches_.push_back(std::make_shared<Branch>());
        if (size_ % piece_size == 0) own(branches_.back()).push_back(std::make_shared<Piece>());
        own_piece(size_).push_back(std::move(value));
        ++size_;
    }

    /// A list of other values that shares with this one the pieces in which `same` holds at every place.
    template <class Same> SharedList with_values(const std::vector<T>& values, Same same) const {
        SharedList out(values);
        for (size_t b = 0; b < std::min(branches_.size(), out.branches_.size()); ++b) {
            Branch& branch = *out.branches_[b];
            const Branch& own = *branches_[b];
            size_t shared = 0;
            for (size_t p = 0; p < std::min(branch.size(), own.size()); ++p)
                if (std::equal(branch[p]->begin(), branch[p]->end(), own[p]->begin(), own[p]->end(), same))
                    branch[p] = own[p], ++shared;
            if (shared == branch.size() && shared == own.size()) out.branches_[b] = branches_[b];
        }
        return out;
    }

    /// All of them, copied.
    std::vector<T> values() const { return std::vector<T>(begin(), end()); }

    class Iterator {
    public:
        using iterator_category = std::forward_iterator_tag;
        using value_type = T;
        using difference_type = std::ptrdiff_t;
        using pointer = const T*;
        using reference = const T&;

        Iterator() = default;
        Iterator(const SharedList* list, size_t at) : list_(list), at_(at) { find(); }
        const T& operator*() const { return *value_; }
        const T* operator->() const { return value_; }
        Iterator& operator++() {
            ++at_, ++value_;
            if (at_ % piece_size == 0) find();
            return *this;
        }
        Iterator operator++(int) {
            const Iterator before = *this;
            ++*this;
            return before;
        }
        bool operator==(const Iterator& other) const { return at_ == other.at_; }

    private:
        void find() { value_ = at_ < list_->size_ ? &(*list_)[at_] : nullptr; }

        const SharedList* list_ = nullptr;
        size_t at_ = 0;
        const T* value_ = nullptr;
    };
    Iterator begin() const { return {this, 0}; }
    Iterator end() const { return {this, size_}; }

private:
    using Piece = std::vector<T>;
    using Branch = std::vector<std::shared_ptr<Piece>>;
    static constexpr size_t branch_size = piece_size * 32; ///< places in one

    SharedList(const T* values, size_t count) : size_(count) {
        for (size_t i = 0; i < count; i += piece_size) {
            if (i % branch_size == 0) branches_.push_back(std::make_shared<Branch>());
            branches_.back()->push_back(
                std::make_shared<Piece>(values + i, values + std::min(count, i + piece_size)));
        }
    }

    /// What is pointed to, after it was copied where others share it.
    template <class Part> static Part& own(std::shared_ptr<Part>& part) {
        if (part.use_count() > 1) part = std::make_shared<Part>(*part);
        // Another thread may have let go of it just now: what it read must not be overtaken by our writing.
        std::atomic_thread_fence(std::memory_order_acquire);
        return *part;
    }
    Piece& own_piece(size_t i) { return own(own(branches_[i / branch_size])[i % branch_size / piece_size]); }
    const std::shared_ptr<Piece>& piece(size_t i) const {
        return (*branches_[i / branch_size])[i % branch_size / piece_size];
    }

    std::vector<std::shared_ptr<Branch>> branches_;
    size_t size_ = 0;
};

} // namespace rubble
