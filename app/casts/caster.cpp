#include "casts/caster.h"

namespace rubble::app {

Caster::Caster(QObject* parent) : QObject(parent) {
    qRegisterMetaType<CastOutcome>();
    thread_ = std::jthread([this](const std::stop_token& stop) { work(stop); });
}

Caster::~Caster() {
    {
        const std::lock_guard lock(mutex_);
        running_.request();
    }
    thread_.request_stop();
    thread_.join();
}

uint64_t Caster::request(const Project& project, const cast::Rules& rules, uint64_t first_seed, int count) {
    const std::lock_guard lock(mutex_);
    running_.request();
    running_ = Cancel::create();
    next_ = Job{project, rules, ++last_, first_seed, count, running_};
    wake_.notify_all();
    return last_;
}

void Caster::work(std::stop_token stop) {
    while (!stop.stop_requested()) {
        std::optional<Job> job;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [this] { return next_.has_value(); })) return;
            std::swap(job, next_);
        }
        run(*job);
    }
}

void Caster::run(const Job& job) {
    auto parts = cast::parts_of(job.project, job.rules);
    const auto shared =
        parts ? std::make_shared<const cast::Parts>(std::move(*parts)) : std::shared_ptr<const cast::Parts>();
    for (int i = 0; i < job.count && !job.cancel.requested(); ++i) {
        CastOutcome outcome{job.number, i, job.first_seed + uint64_t(i), {}, shared, {}};
        if (!shared) {
            outcome.error = parts.error().place + ": " + parts.error().message;
        } else {
            auto cast = cast::cast_level(job.project, job.rules, *shared, outcome.seed, job.cancel);
            if (job.cancel.requested()) return;
            if (cast)
                outcome.cast = std::make_shared<const cast::Cast>(std::move(*cast));
            else
                outcome.error = cast.error().message;
        }
        emit made(outcome);
    }
}

} // namespace rubble::app
