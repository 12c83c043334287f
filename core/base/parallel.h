#pragma once

#include <cstddef>
#include <functional>

namespace rubble {

/// Calls `work(i)` for every i in [0, count), on all cores. Each call must write only to its own place; the
/// order of calls is not fixed. Runs on the calling thread alone when there is little to do.
/// An exception from `work` ends the program: work reports failures in its results.
void parallel_for(size_t count, const std::function<void(size_t)>& work, size_t chunk = 1);

} // namespace rubble
