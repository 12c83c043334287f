#include "casts/caster.h"

namespace rubble::app {

Caster::Caster(QObject* parent)
    : QObject(parent),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<CastOutcome>();
}

void Caster::run(const Job& job, uint64_t number, const Cancel& cancel) {
    auto parts = cast::parts_of(job.project, job.rules);
    const auto shared =
        parts ? std::make_shared<const cast::Parts>(std::move(*parts)) : std::shared_ptr<const cast::Parts>();
    for (int i = 0; i < job.count && !cancel.requested(); ++i) {
        CastOutcome outcome{number, i, job.first_seed + uint64_t(i), {}, shared, {}};
        if (!shared) {
            outcome.error = parts.error().place + ": " + parts.error().message;
        } else {
            auto cast = cast::cast_level(job.project, job.rules, *shared, outcome.seed, cancel);
            if (cancel.requested()) return;
            if (cast)
                outcome.cast = std::make_shared<const cast::Cast>(std::move(*cast));
            else
                outcome.error = cast.error().message;
        }
        emit made(outcome);
    }
}

} // namespace rubble::app
