#include "base/parallel.h"

#include <algorithm>

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

namespace rubble {

void parallel_for(size_t count, const std::function<void(size_t)>& work, size_t chunk) {
    chunk = std::max<size_t>(chunk, 1);
    if (count <= chunk) {
        for (size_t i = 0; i < count; ++i) work(i);
        return;
    }
    // On its own: a thread that waits for a loop within a loop takes turns of that one alone, so that no work
    // is begun in the middle of other work on the same thread.
    tbb::this_task_arena::isolate([&] {
        tbb::parallel_for(
            tbb::blocked_range<size_t>(0, count, chunk),
            [&](const tbb::blocked_range<size_t>& turns) {
                for (size_t i = turns.begin(); i < turns.end(); ++i) work(i);
            },
            tbb::simple_partitioner());
    });
}

} // namespace rubble
