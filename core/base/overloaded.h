#pragma once

namespace rubble {

/// One function of several, each for its own kind, to visit a variant with: the compiler names what is
/// missing.
template <class... F> struct overloaded : F... { using F::operator()...; };
template <class... F> overloaded(F...) -> overloaded<F...>;

} // namespace rubble
