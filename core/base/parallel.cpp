#include "base/parallel.h"

#include <algorithm>
#include <atomic>
#include <thread>
#include <vector>

namespace rubble {

void parallel_for(size_t count, const std::function<void(size_t)>& work, size_t chunk) {
    const size_t chunks = (count + chunk - 1) / std::max<size_t>(chunk, 1);
    // Asking how many threads there are reads a file: not for a few things.
    const size_t threads =
        chunks <= 1 ? 1 : std::min<size_t>(std::max(1u, std::thread::hardware_concurrency()), chunks);
    if (threads <= 1) {
        for (size_t i = 0; i < count; ++i) work(i);
        return;
    }
    std::atomic<size_t> next{0};
    auto run = [&] {
        for (size_t begin = next.fetch_add(chunk); begin < count; begin = next.fetch_add(chunk))
            for (size_t i = begin; i < std::min(begin + chunk, count); ++i) work(i);
    };
    std::vector<std::jthread> crew;
    crew.reserve(threads - 1);
    for (size_t i = 1; i < threads; ++i) crew.emplace_back(run);
    run();
}

} // namespace rubble
