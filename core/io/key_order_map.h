#pragma once

#include <memory>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include <nlohmann/json.hpp>

namespace rubble::io {

/// The members of a JSON object in the order in which they came. Finding one among very many takes no longer
/// than among few: the library's own ordered object looks through all of them, so that a file with a hundred
/// thousand keys in one object takes minutes.
template <class Key, class T, class IgnoredLess = std::less<Key>,
          class Allocator = std::allocator<std::pair<const Key, T>>>
class KeyOrderMap : public nlohmann::ordered_map<Key, T, IgnoredLess, Allocator> {
    using Base = nlohmann::ordered_map<Key, T, IgnoredLess, Allocator>;

public:
    using typename Base::const_iterator;
    using typename Base::iterator;
    using typename Base::size_type;

    KeyOrderMap() = default;
    template <class It>
    KeyOrderMap(It first, It last, const Allocator& allocator = {}) : Base(first, last, allocator) {}
    KeyOrderMap(std::initializer_list<std::pair<const Key, T>> members, const Allocator& allocator = {})
        : Base(members, allocator) {}
    KeyOrderMap(const KeyOrderMap& other) : Base(other) {}
    KeyOrderMap(KeyOrderMap&& other) noexcept : Base(std::move(other)), places_(std::move(other.places_)) {}
    KeyOrderMap& operator=(KeyOrderMap other) noexcept {
        Base::swap(other);
        std::swap(places_, other.places_);
        return *this;
    }

    std::pair<iterator, bool> emplace(const Key& key, T value) {
        const size_type at = place_of(key);
        if (at < this->size()) return {this->begin() + long(at), false};
        this->emplace_back(key, std::move(value));
        if (places_) places_->emplace(key, this->size() - 1);
        return {this->end() - 1, true};
    }
    T& operator[](const Key& key) { return emplace(key, T{}).first->second; }
    const T& operator[](const Key& key) const { return at(key); }
    T& at(const Key& key) { return (this->begin() + long(known(key)))->second; }
    const T& at(const Key& key) const { return (this->begin() + long(known(key)))->second; }
    size_type count(const Key& key) const { return place_of(key) < this->size() ? 1 : 0; }
    iterator find(const Key& key) { return this->begin() + long(place_of(key)); }
    const_iterator find(const Key& key) const { return this->begin() + long(place_of(key)); }
    size_type erase(const Key& key) {
        places_.reset();
        return Base::erase(key);
    }
    iterator erase(iterator at) {
        places_.reset();
        return Base::erase(at);
    }
    iterator erase(iterator first, iterator last) {
        places_.reset();
        return Base::erase(first, last);
    }
    std::pair<iterator, bool> insert(const std::pair<const Key, T>& member) {
        return emplace(member.first, member.second);
    }

private:
    /// Objects of a few keys are looked through faster than hashed.
    static constexpr size_type k_few = 24;

    size_type place_of(const Key& key) const {
        if (this->size() <= k_few) {
            size_type i = 0;
            for (const auto& member : *this) {
                if (member.first == key) break;
                ++i;
            }
            return i;
        }
        if (!places_) {
            places_ = std::make_unique<std::unordered_map<Key, size_type>>();
            for (const auto& member : *this) places_->emplace(member.first, places_->size());
        }
        const auto found = places_->find(key);
        return found == places_->end() ? this->size() : found->second;
    }
    size_type known(const Key& key) const {
        const size_type at = place_of(key);
        if (at >= this->size()) throw std::out_of_range("key not found");
        return at;
    }

    mutable std::unique_ptr<std::unordered_map<Key, size_type>> places_;
};

} // namespace rubble::io
