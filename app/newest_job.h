#pragma once

#include <condition_variable>
#include <cstdint>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

#include "base/cancel.h"

namespace rubble::app {

/// A thread that does the newest of the jobs it is given: one that comes stops the one before. Jobs are
/// copies of all they need.
template <class Job> class NewestJob {
public:
    /// Called on the thread with the job, its number, and what tells it to stop.
    using Run = std::function<void(const Job&, uint64_t, const Cancel&)>;

    explicit NewestJob(Run run)
        : run_(std::move(run)),
          thread_([this](const std::stop_token& stop) { work(stop); }) {}
    ~NewestJob() {
        drop();
        thread_.request_stop();
        thread_.join();
    }

    /// Gives the job's number.
    uint64_t ask(Job job) {
        const std::lock_guard lock(mutex_);
        running_.request();
        running_ = Cancel::create();
        next_ = Waiting{std::move(job), ++last_, running_};
        wake_.notify_all();
        return last_;
    }
    /// Nothing is to be done any more.
    void drop() {
        const std::lock_guard lock(mutex_);
        running_.request();
        next_.reset();
    }

private:
    struct Waiting {
        Job job;
        uint64_t number;
        Cancel cancel;
    };

    void work(const std::stop_token& stop) {
        while (!stop.stop_requested()) {
            std::optional<Waiting> job;
            {
                std::unique_lock lock(mutex_);
                if (!wake_.wait(lock, stop, [this] { return next_.has_value(); })) return;
                std::swap(job, next_);
            }
            run_(job->job, job->number, job->cancel);
        }
    }

    Run run_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Waiting> next_;
    Cancel running_;
    uint64_t last_ = 0;
    std::jthread thread_; ///< the last: it uses the others
};

} // namespace rubble::app
