#include "base/parallel.h"

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <mutex>
#include <thread>
#include <vector>

namespace rubble {

namespace {

/// A loop whose turns are taken by whoever is free.
struct Job {
    const std::function<void(size_t)>& work;
    const size_t count, chunk;
    std::atomic<size_t> next{0};
    int helpers = 0; ///< besides the thread that asked; only touched with the crew's lock held

    void run() {
        for (size_t begin = next.fetch_add(chunk); begin < count; begin = next.fetch_add(chunk))
            for (size_t i = begin; i < std::min(begin + chunk, count); ++i) work(i);
    }
    bool has_more() const { return next < count; }
};

/// Threads that wait for jobs. An edit is a row of loops of a tenth of a millisecond each: starting threads
/// for each would take longer than they save.
class Crew {
public:
    Crew() {
        for (unsigned i = 1; i < std::thread::hardware_concurrency(); ++i)
            helpers_.emplace_back([this](const std::stop_token& stop) { help(stop); });
    }

    bool alone() const { return helpers_.empty(); }

    void do_together(Job& job) {
        {
            const std::lock_guard lock(mutex_);
            open_.push_back(&job);
            ++posted_;
        }
        wake_.notify_all();
        job.run();
        std::unique_lock lock(mutex_);
        std::erase(open_, &job);
        done_.wait(lock, [&] { return job.helpers == 0; });
    }

private:
    /// So often a helper looks for the next loop before it sleeps: waking up takes as long as a short loop.
    static constexpr int k_looks = 100;

    void help(const std::stop_token& stop) {
        while (!stop.stop_requested()) {
            const size_t seen = posted_;
            while (Job* job = take()) {
                job->run();
                const std::lock_guard lock(mutex_);
                if (--job->helpers == 0) done_.notify_all();
            }
            for (int i = 0; i < k_looks && posted_ == seen; ++i) std::this_thread::yield();
            std::unique_lock lock(mutex_);
            wake_.wait(lock, stop, [&] { return posted_ != seen; });
        }
    }

    /// The last one first: a loop within a loop keeps the thread waiting that asked for it.
    Job* take() {
        const std::lock_guard lock(mutex_);
        const auto job =
            std::find_if(open_.rbegin(), open_.rend(), [](const Job* j) { return j->has_more(); });
        if (job == open_.rend()) return nullptr;
        ++(*job)->helpers;
        return *job;
    }

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::condition_variable done_;
    std::vector<Job*> open_;
    std::atomic<size_t> posted_ = 0;
    std::vector<std::jthread> helpers_; // last: they end before what they use
};

} // namespace

void parallel_for(size_t count, const std::function<void(size_t)>& work, size_t chunk) {
    chunk = std::max<size_t>(chunk, 1);
    // The cores belong to the whole process, and so does the crew that uses them.
    static Crew crew;
    if (count <= chunk || crew.alone()) {
        for (size_t i = 0; i < count; ++i) work(i);
        return;
    }
    Job job{work, count, chunk};
    crew.do_together(job);
}

} // namespace rubble
