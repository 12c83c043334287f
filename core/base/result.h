#pragma once

#include <string>

#include <tl/expected.hpp>

namespace rubble {

/// A failure that came from outside: a file, what somebody typed, the disk.
struct Error {
    std::string code;    ///< permanent, listed in docs/errors.md
    std::string place;   ///< file, and the line or key in it; may be empty
    std::string message; ///< what is, what was expected, and what can be done

    /// One line: place, message and code.
    std::string text() const { return (place.empty() ? "" : place + ": ") + message + " [" + code + "]"; }
    bool operator==(const Error&) const = default;
};

template <class T> using Result = tl::expected<T, Error>;

/// An error to give back: which kind, where, and what can be done about it.
inline tl::unexpected<Error> fail(std::string code, std::string place, std::string message) {
    return tl::unexpected<Error>(Error{std::move(code), std::move(place), std::move(message)});
}

} // namespace rubble
