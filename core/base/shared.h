#pragma once

#include <memory>
#include <utility>

namespace rubble {

/// An immutable value that copies share. Equality is the value's; `is` tells whether two are the very same
/// one, which is how changes between two documents are found without comparing contents.
template <class T> class Shared {
public:
    Shared() : value_(std::make_shared<const T>()) {}
    Shared(T value) : value_(std::make_shared<const T>(std::move(value))) {} // NOLINT: a value is one

    const T& operator*() const { return *value_; }
    const T* operator->() const { return value_.get(); }
    const T* get() const { return value_.get(); }
    /// Whether the two share one value.
    bool is(const Shared& other) const { return value_ == other.value_; }
    bool operator==(const Shared& other) const { return is(other) || *value_ == *other.value_; }

private:
    std::shared_ptr<const T> value_;
};

} // namespace rubble
